import type { Command } from '@/core/project/commands';
import type { Material } from '@/core/material/schema';
import type { Project, Surface } from '@/core/project/schema';
import type { Spec } from '@/core/specification/schema';
import { newMark } from '@/core/wear/markFields';
import { bleached } from '@/core/wear/kinds/bleached';
import { dirt } from '@/core/wear/kinds/dirt';
import { dust } from '@/core/wear/kinds/dust';
import { rubbed } from '@/core/wear/kinds/rubbed';
import type { WearSpec } from '@/core/wear/schema';

interface Worn {
  part: RegExp;
  is: (surface: Surface) => boolean;
  wear: WearSpec;
}

const isTop = ({ normal }: Surface) => normal[1] > 0.9;
const facesSouth = ({ normal }: Surface) => normal[2] > 0.9;

/** What the water leaves. */
const TIDE = { ...dirt.first, strength: 0.35, share: 0.4, softness: 0.7, sizeMm: 1700, colour: '#4c4a3a', seed: 9 };

/** What has come over the landing since it was built. */
const WORN: Worn[] = [
  {
    part: /^Hall floor$/,
    is: isTop,
    wear: {
      layers: [
        { ...dirt.first, strength: 0.22, share: 0.35, softness: 0.8, sizeMm: 1900, colour: '#4f4436' },
        { ...dust.first, strength: 0.4, reachMm: 240, ledges: 0.08 },
        // from the lobby's door to the boats
        {
          ...rubbed.first,
          strength: 0.2,
          widthMm: 700,
          softMm: 600,
          points: [
            [9500, 1100],
            [7900, 2600],
            [7300, 4300],
            [8300, 7100],
          ],
        },
      ],
      marks: [],
    },
  },
  {
    part: /^Long wall$/,
    is: facesSouth,
    wear: {
      layers: [{ ...dirt.first, strength: 0.2, share: 0.4, softness: 0.9, sizeMm: 2600, colour: '#3d342c', seed: 4 }],
      marks: [{ ...newMark('chalk-tally', [4650, 1480]), strength: 0.85, turnDeg: -4 }],
    },
  },
  {
    part: /^Quay$/,
    is: isTop,
    wear: { layers: [{ ...bleached.first, strength: 0.18, bearingDeg: 200 }, TIDE], marks: [] },
  },
  { part: /^Quay$/, is: (surface) => !isTop(surface), wear: { layers: [TIDE], marks: [] } },
];

/** Wear over some of what is laid, as one step. */
export function wearDemo(project: Project, specs: Readonly<Record<string, Spec>>, materials: Material[]): Command[] {
  const worn: Record<string, Spec> = {};
  for (const { part, is, wear } of WORN)
    for (const s of Object.values(project.surfaces))
      if (specs[s.id] && part.test(project.parts[s.part].name) && is(s)) worn[s.id] = { ...specs[s.id], wear };
  const used = new Set(WORN.flatMap(({ wear }) => wear.marks.map((m) => m.material)));
  return [{ kind: 'setSpecs', specs: worn, materials: materials.filter((m) => used.has(m.id)) }];
}
