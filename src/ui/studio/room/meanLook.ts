import { Color } from 'three';
import { GLOW } from '@/core/project/lightOf';
import type { Project } from '@/core/project/schema';
import { repeatOf } from '@/core/specification/schema';
import { finishOn } from '@/core/specification/finish';
import type { Entry } from './entry';

const BARE = '#c9c4ba';

/** What a surface sends back as a whole, seen from so far away that its picture is one colour. */
export function lookOf(
  { region: { surface, spec, colour } }: Entry,
  { materials, models, parts }: Project,
): { albedo: Color; glow: number; seeThrough: boolean } {
  const material = spec ? materials[spec.material] : undefined;
  if (!spec || !material) {
    const slot = models[parts[surface.part].model]?.slots[surface.slot];
    return { albedo: new Color(colour ?? slot?.colour ?? BARE), glow: 0, seeThrough: false };
  }
  const look = finishOn(spec.finish, material, repeatOf(spec, material).widthMm);
  const albedo = new Color(material.colour).multiply(new Color(...look.tint));
  return { albedo, glow: look.emission * GLOW, seeThrough: !!material.maps.opacity };
}
