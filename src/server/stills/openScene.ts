import sharp from 'sharp';
import { linearOfHex } from '@/core/colour/srgb';
import type { ExportMaterial, ExportPart, SceneOut } from '@/core/formats/exportScene';
import { daylightOf, GROUND, panorama, skyOf, WATER } from '@/core/light/daylight';
import { levelOf, type OwnSky, shrinkSky, takeOutSun, unpackSky } from '@/core/light/ownSky';
import type { Rgb } from '@/core/light/sky';
import type { Lights } from '@/core/light/trace';
import { emptyBox, growBox, type Vec3 } from '@/core/geometry/vec';
import { GLOW, lampAt, lightOf, MOST_LAMPS, sunPlace } from '@/core/project/lightOf';
import { runOf } from '@/core/project/runs';
import type { Project, Surface } from '@/core/project/schema';
import { finishOn } from '@/core/specification/finish';
import { repeatOf, type Spec } from '@/core/specification/schema';
import { listFaces } from '@/core/mesh/types';
import type { LitStage } from '@/core/still/gather';
import { readMesh } from '../laying/meshes';
import { TracedScene, type TracedPicture, type TracedSurface } from '@/core/still/TracedScene';
import { dressParts } from '../exporting/exportTasks';
import { readBlob } from '../store/data';
import { Problem } from '../http/problem';
import { BoxTree } from './BoxTree';

/** Longer side of pictures as rays look them up, px. */
const PICTURE_PX = 1024;
/** Faces of a scene that is traced; more do not fit into a worker's memory. */
const MOST_FACES = 8e6;
/** The sky as it is looked up by rays. */
const SKY = [512, 256] as const;
/** How far the ground goes, times the model's reach: beyond it is as the sky's own. */
const FAR = 5;

/** A project's dressed scene and its light, ready for rays: its faces are those of a hand-over. Metres; y is up. */
export async function openScene(
  project: Project,
  progress: (share: number, message: string) => void,
): Promise<LitStage> {
  const materials: ExportMaterial[] = [];
  const parts: ExportPart[] = [];
  let faces = 0;
  const collect: SceneOut = {
    put(part) {
      faces += part.surfaces.reduce((sum, { dressed }) => sum + dressed.indices.length / 3, 0);
      if (faces > MOST_FACES)
        throw new Problem(422, 'Too much for a traced still', `It has more than ${MOST_FACES / 1e6} million faces.`, {
          field: 'project',
        });
      parts.push(part);
      return Promise.resolve();
    },
    finish: () => Promise.resolve(),
  };
  const how = { format: 'glb', pictureSize: PICTURE_PX, share: false } as const;
  await dressParts(seenOf(project), how, materials, collect, progress);
  const pictures = new Map<string, Promise<TracedPicture>>();
  const looks = await Promise.all(materials.map((m) => lookOf(m, pictures)));
  const surfaces = parts.flatMap(({ origin, surfaces: own }) =>
    own.map(({ dressed, material }): TracedSurface => {
      const look = typeof material === 'number' ? looks[material] : plain(linearOfHex(material) as Rgb);
      const { positions, normals, indices, uvs, tones } = dressed;
      return { origin, positions, normals, indices, uvs, tones, ...look };
    }),
  );
  const lamps = lampsOf(surfaces, project);
  const ground = groundOf(surfaces, project);
  const all = ground ? [...surfaces, ground] : surfaces;
  const bare = [...(await bareSurfaces(seenOf(project))), ...(ground ? [ground] : [])];
  return {
    seen: new TracedScene(all, new BoxTree(all)),
    around: new TracedScene(bare, new BoxTree(bare)),
    lights: { ...(await daylightOn(project)), lamps },
  };
}

/** The model's own faces in the mean colours of what is laid on them; what is see-through is left out. */
async function bareSurfaces(project: Project): Promise<TracedSurface[]> {
  const out: TracedSurface[] = [];
  for (const surface of Object.values(project.surfaces)) {
    if (surface.zone || surface.run) continue;
    const part = project.parts[surface.part];
    const model = project.models[part.model];
    const { origin, positions, indices } = await readMesh(model.mesh, part.mesh);
    const spec = specAt(project, surface);
    const material = spec && project.materials[spec.material];
    if (material?.maps.opacity) continue;
    const look = material && spec && finishOn(spec.finish, material, repeatOf(spec, material).widthMm);
    const own = linearOfHex(material?.colour ?? model.slots[surface.slot]?.colour ?? BARE) as Rgb;
    const corners = new Uint32Array([...listFaces(surface.faces)].flatMap((f) => [...indices.slice(f * 3, f * 3 + 3)]));
    out.push({
      origin,
      positions,
      normals: new Float32Array(),
      indices: corners,
      uvs: new Float32Array(),
      ...plain(own.map((v, c) => v * (look?.tint[c] ?? 1)) as Rgb),
      glow: own.map((v) => v * (look?.emission ?? 0) * GLOW) as Rgb,
    });
  }
  return out;
}
const BARE = '#cccccc';

/** A member of a run carries none of its own. */
const specAt = (project: Project, surface: Surface): Spec | null =>
  surface.spec ?? runOf(project, surface.id)?.spec ?? null;

/** What the room shows: neither what is hidden nor what is beside the ones shown alone. */
function seenOf(project: Project): Project {
  const alone = project.isolated && new Set(project.isolated);
  const surfaces = Object.values(project.surfaces).filter((s) => !s.hidden && (!alone || alone.has(s.id)));
  return { ...project, surfaces: Object.fromEntries(surfaces.map((s) => [s.id, s])) };
}

type Look = Pick<TracedSurface, 'colour' | 'picture' | 'glow' | 'seeThrough'>;

const plain = (colour: Rgb): Look => ({ colour, picture: null, glow: [0, 0, 0], seeThrough: false });

async function lookOf(
  { material, look, pictures: { baseColour }, brightened = 1, blended }: ExportMaterial,
  known: Map<string, Promise<TracedPicture>>,
): Promise<Look> {
  const own = linearOfHex(material.colour) as Rgb;
  let picture: Promise<TracedPicture> | null = null;
  if (baseColour) {
    picture = known.get(baseColour.key) ?? decode(baseColour.bytes);
    known.set(baseColour.key, picture);
  }
  return {
    picture: await picture,
    // tones darken again what was brightened for them
    colour: look.tint.map((t, c) => (picture ? t : Math.min(1, own[c] * t * brightened))) as Rgb,
    glow: own.map((v) => v * look.emission * GLOW) as Rgb,
    seeThrough: !!blended || !!material.maps.opacity,
  };
}

async function decode(bytes: Uint8Array): Promise<TracedPicture> {
  const { data, info } = await sharp(bytes)
    .toColourspace('srgb')
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { width: info.width, height: info.height, pixels: data };
}

/** Lamps hang in the middle of what glows. */
function lampsOf(surfaces: readonly TracedSurface[], { light }: Project): Lights['lamps'] {
  if (light.lampsOff) return [];
  const glowing = surfaces.filter(({ glow }) => Math.max(...glow) > 0).slice(0, MOST_LAMPS);
  return glowing.map((surface) => {
    const { min, max } = boxOf([surface]);
    return lampAt(min.map((v, c) => (v + max[c]) / 2000) as Vec3);
  });
}

function boxOf(surfaces: readonly TracedSurface[]) {
  const box = emptyBox();
  for (const { origin, positions } of surfaces)
    for (let i = 0; i < positions.length; i += 3)
      growBox(box, positions[i] + origin[0], positions[i + 1] + origin[1], positions[i + 2] + origin[2]);
  return box;
}

/** Ground or water under everything, mm; null where nothing lies outside, or nothing is there. */
function groundOf(surfaces: readonly TracedSurface[], { light }: Project): TracedSurface | null {
  const { outside } = lightOf(light);
  const { min, max } = boxOf(surfaces);
  if (outside === 'nothing' || !(max[0] >= min[0])) return null;
  const reach = FAR * Math.max(1000, Math.hypot(max[0] - min[0], max[1] - min[1], max[2] - min[2]) / 2);
  const origin: Vec3 = [(min[0] + max[0]) / 2, (light.outsideMm ?? min[1]) - 2, (min[2] + max[2]) / 2];
  return {
    origin,
    positions: Float32Array.of(-reach, 0, reach, reach, 0, reach, reach, 0, -reach, -reach, 0, -reach),
    normals: new Float32Array(),
    indices: Uint32Array.of(0, 1, 2, 0, 2, 3),
    uvs: new Float32Array(),
    ...plain(outside === 'water' ? WATER : GROUND),
    ...(outside === 'water' ? { water: true } : {}),
  };
}

async function daylightOn({ light, northDeg }: Project): Promise<Pick<Lights, 'daylight'>> {
  const below = lightOf(light).outside === 'water' ? 'water' : 'ground';
  const exact = daylightOf(sunPlace(light, northDeg), below, await ownSkyOf(light.sky, northDeg));
  return { daylight: { ...exact, around: skyOf(panorama(exact.around, ...SKY), ...SKY) } };
}

async function ownSkyOf(sky: Project['light']['sky'], northDeg: number): Promise<OwnSky | null> {
  if (!sky) return null;
  const { data, info } = await sharp(await readBlob(sky.image))
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  const { sky: picture, sun } = takeOutSun(unpackSky(data, info.width, info.height));
  return {
    picture: shrinkSky(picture, ...SKY),
    sun: sky.sun === 'found' ? sun : null,
    turnDeg: sky.turnDeg + northDeg,
    gain: levelOf(picture) * sky.brightness,
  };
}
