import { BufferAttribute, type BufferGeometry, Color } from 'three';
import type { Region } from '@/core/project/regions';
import type { Project } from '@/core/project/schema';
import { repeatOf } from '@/core/specification/schema';

/**
 * Overlays of the room: what a surface measures, or which it is, as colours. Those told by a ramp say how true it lies,
 * how many pixels its picture has for each millimetre, how often its picture is repeated; loud ones tell apart.
 */
export const RAMPS = ['stretch', 'density', 'repeats'] as const;
export const LOUD = ['byMaterial', 'bySpec', 'byRun'] as const;
export type Ramp = (typeof RAMPS)[number];
export type Loud = (typeof LOUD)[number];

export const isRamp = (shown: string): shown is Ramp => (RAMPS as readonly string[]).includes(shown);
export const isLoud = (shown: string): shown is Loud => (LOUD as readonly string[]).includes(shown);

/** Colours from the least value to the greatest; the middle is as it should be. */
const STOPS = ['#2f4b7c', '#7f98bd', '#e9e4d6', '#d59a74', '#a83a2e'];
const BACKWARDS = [...STOPS].reverse();
/** What nothing is known of, or belongs to none. */
const UNKNOWN = '#9a958a';

interface Scale {
  colours: string[];
  low: string;
  middle: string;
  high: string;
  /** Value in the middle, and how many doublings from there to each end. */
  about: number;
  doublings: number;
}

const SCALES: Record<Ramp, Scale> = {
  stretch: {
    colours: STOPS,
    low: 'squeezed, 67%',
    middle: 'true',
    high: '150%, stretched',
    about: 1,
    doublings: Math.log2(1.5),
  },
  // few pixels are the trouble, whatever their number
  density: { colours: BACKWARDS, low: '0.25 px/mm', middle: '1 px/mm', high: '4 px/mm', about: 1, doublings: 2 },
  repeats: { colours: STOPS, low: 'once', middle: '8 ×', high: '64 × and more', about: 8, doublings: 3 },
};

export const legendOf = (measure: Ramp): Pick<Scale, 'colours' | 'low' | 'middle' | 'high'> => SCALES[measure];

/** The colour of a value on its ramp. */
export function rampColour(value: number, measure: Ramp): Color {
  const { colours, about, doublings } = SCALES[measure];
  const share = Math.min(1, Math.max(0, 0.5 + Math.log2(value / about) / (2 * doublings)));
  const at = share * (colours.length - 1);
  const n = Math.min(colours.length - 2, Math.floor(at));
  return new Color(colours[n]).lerp(new Color(colours[n + 1]), at - n);
}

/** Loud colours that are as unlike as can be, whatever their number. */
export const loudColour = (n: number): Color => new Color().setHSL((n * 0.381966) % 1, 0.72, 0.42 + (n % 3) * 0.1);

/** What a loud overlay tells a region by, and what people call it; null where it belongs to none. */
export function groupOf(
  { surface, spec }: Region,
  { materials }: Project,
  by: Loud,
): { key: string; name: string } | null {
  if (by === 'byRun') return surface.run ? { key: surface.id, name: surface.name } : null;
  if (!spec) return null;
  const { name = spec.material } = materials[spec.material] ?? {};
  return { key: by === 'byMaterial' ? spec.material : JSON.stringify(spec), name };
}

/** Each group of some regions with its colour, in their order. */
export function groupsOf(
  regions: Iterable<Region>,
  project: Project,
  by: Loud,
): Map<string, { name: string; colour: Color }> {
  const groups = new Map<string, { name: string; colour: Color }>();
  for (const region of regions) {
    const group = groupOf(region, project, by);
    if (group && !groups.has(group.key)) groups.set(group.key, { name: group.name, colour: loudColour(groups.size) });
  }
  return groups;
}

/** How often the picture of a region is repeated on it, at its own size; null where there is none. */
export function repeatsOf({ surface, spec }: Region, { materials }: Project): number | null {
  const material = spec ? materials[spec.material] : undefined;
  if (!spec || !material) return null;
  const { widthMm, heightMm } = repeatOf(spec, material);
  return Math.max(1, surface.areaMm2 / (widthMm * heightMm));
}

/** Gives every vertex of a geometry one colour. */
export function colourFlat(geometry: BufferGeometry, colour: Color | null): void {
  const c = colour ?? new Color(UNKNOWN);
  paint(geometry, `flat ${c.getHexString()}`, () => c);
}

/**
 * Gives every vertex the colour of its stretch, or of its pixels for each millimetre.
 * @param pxPerMm of the picture as laid, before stretch; null where there is none
 */
export function colourByMeasure(geometry: BufferGeometry, measure: Ramp, pxPerMm: number | null): void {
  const stretch = geometry.getAttribute('stretch').array;
  const none = new Color(UNKNOWN);
  paint(geometry, `${measure} ${pxPerMm}`, (n) => {
    if (measure === 'density' && pxPerMm === null) return none;
    return rampColour(measure === 'stretch' ? stretch[n] : pxPerMm! * stretch[n], measure);
  });
}

function paint(geometry: BufferGeometry, key: string, colourAt: (vertex: number) => Color): void {
  if (geometry.userData.measure === key) return;
  geometry.userData.measure = key;
  const { count } = geometry.getAttribute('position');
  const colours = new Float32Array(count * 3);
  for (let n = 0; n < count; n++) colourAt(n).toArray(colours, n * 3);
  geometry.setAttribute('color', new BufferAttribute(colours, 3));
}
