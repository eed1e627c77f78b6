import type { Role } from './schema';

/** Endings by which files say their role, longest first so that `metallicroughness` is not taken for `roughness`. */
const ENDINGS: [Role, string[]][] = [
  [
    'baseColour',
    [
      'basecolour',
      'basecolor',
      'base_colour',
      'base_color',
      'albedo',
      'diffuse',
      'diff',
      'colour',
      'color',
      'col',
      'bc',
      'rgb',
    ],
  ],
  [
    'normal',
    [
      'normalgl',
      'normal_gl',
      'nor_gl',
      'normalmap',
      'normal',
      'normals',
      'nrml',
      'nrm',
      'norm',
      'nor',
      'nml',
      'nm',
      'n',
    ],
  ],
  ['roughness', ['roughness', 'rough', 'rgh']],
  ['metallic', ['metallic', 'metalness', 'metal', 'met', 'mtl']],
  ['occlusion', ['ambientocclusion', 'ambient_occlusion', 'occlusion', 'occ', 'ao']],
  ['opacity', ['opacity', 'alpha', 'transparency', 'mask', 'cutout']],
  ['emission', ['emission', 'emissive', 'emit', 'glow']],
  ['height', ['displacement', 'height', 'bump', 'disp', 'depth', 'hgt']],
];

const RESOLUTION = /[ _.-](\d{1,2}k|\d{3,5}(px)?|\d{3,5}x\d{3,5})$/i;

export interface ReadRole {
  /** Name of the set the picture belongs to. */
  material: string;
  role: Role;
  /** False when the name says nothing and base colour was assumed. */
  certain: boolean;
}

/**
 * Reads role and set from a file name: `smoked-oak_2k_basecolor.png` → smoked-oak, base colour.
 * A name without a known ending is taken for a base colour.
 */
export function readRole(fileName: string): ReadRole {
  const whole = fileName
    .replace(/\\/g, '/')
    .split('/')
    .pop()!
    .replace(/\.[^.]+$/, '');
  const stem = whole.replace(RESOLUTION, '');
  const lower = stem.toLowerCase();
  for (const [role, endings] of ENDINGS) {
    for (const ending of endings) {
      if (!lower.endsWith(ending)) continue;
      const before = stem.slice(0, stem.length - ending.length);
      const parted = /[ _.-]$/.test(before);
      // “…WallNormal”: a capital parts as well as a sign does
      const capital = /[a-z0-9]$/.test(before) && /^[A-Z]/.test(stem.slice(before.length));
      if (before && !parted && !capital) continue;
      const material = before.replace(/[ _.-]+$/, '').replace(RESOLUTION, '');
      return { material: material || stem, role, certain: true };
    }
  }
  // a camera numbers its pictures: without a role, a number is no resolution
  return { material: whole, role: 'baseColour', certain: false };
}

/**
 * The set a picture belongs to; the same name in two folders is two sets.
 * @example setOf('oak/Smoked_normal.png') // 'oak/smoked'
 */
export const setOf = (file: string): string =>
  `${file.includes('/') ? file.slice(0, file.lastIndexOf('/')) : '.'}/${readRole(file).material.toLowerCase()}`;

/** A readable name from a file's: `smoked-oak_boards` → Smoked oak boards. */
export function titleFrom(stem: string): string {
  const words = stem
    .replace(/([a-z])([A-Z])/g, '$1 $2')
    .replace(/[_-]+/g, ' ')
    .trim()
    .toLowerCase();
  return words ? words[0].toUpperCase() + words.slice(1) : 'Material';
}

/**
 * Maps whose aspect differs from the base colour's by more than 1%: they would be squeezed to share its real size.
 * Their pixel size may differ freely.
 */
export function findOddAspects(
  maps: Partial<Record<Role, { widthPx: number; heightPx: number }>>,
): { role: Role; ratio: number }[] {
  const base = maps.baseColour ?? Object.values(maps)[0];
  if (!base) return [];
  const wanted = base.widthPx / base.heightPx;
  return (Object.entries(maps) as [Role, { widthPx: number; heightPx: number }][])
    .map(([role, map]) => ({ role, ratio: map.widthPx / map.heightPx / wanted }))
    .filter(({ ratio }) => Math.abs(ratio - 1) > 0.01);
}
