import { fileNameOf } from '../schema/nameFrom';
import { ROLE_LABELS, type Role } from './schema';

/** Files that a material's pictures can be written as. */
export const PICTURE_FILES = {
  png: { label: 'PNG, 8 bits', ending: 'png', says: 'nothing is lost of 8 bits' },
  png16: { label: 'PNG, 16 bits', ending: 'png', says: 'heights without steps' },
  jpeg: { label: 'JPEG', ending: 'jpg', says: 'small, and lossy: opacity and fine relief suffer' },
  webp: { label: 'WebP, lossless', ending: 'webp', says: 'small, nothing is lost of 8 bits' },
  tiff: { label: 'TIFF', ending: 'tif', says: 'heights in 16 bits, all else in 8' },
} as const;
export type PictureFile = keyof typeof PICTURE_FILES;

const words = (role: Role): string[] => ROLE_LABELS[role].replace('Base colour', 'Base color').split(' ');
/** Three letters each, as libraries that count them write. */
const SHORT: Record<Role, string> = {
  baseColour: 'col',
  opacity: 'opa',
  normal: 'nrm',
  roughness: 'rgh',
  metallic: 'met',
  occlusion: 'occ',
  emission: 'emi',
  height: 'hgt',
};

const capital = (word: string) => word[0].toUpperCase() + word.slice(1);

/** How pictures are named by their role, without their ending; the material's name comes as words of small letters. */
export const NAMINGS = {
  role: { label: 'baseColour', of: (role: Role) => role as string },
  capitals: {
    label: 'SmokedOak_BaseColor',
    of: (role: Role, name: string[]) => `${name.map(capital).join('')}_${words(role).map(capital).join('')}`,
  },
  small: {
    label: 'smoked_oak_basecolor',
    of: (role: Role, name: string[]) => `${name.join('_')}_${words(role).join('')}`.toLowerCase(),
  },
  short: { label: 'smoked_oak_col', of: (role: Role, name: string[]) => `${name.join('_')}_${SHORT[role]}` },
} as const;
export type Naming = keyof typeof NAMINGS;

/** The file of a role: “SmokedOak_BaseColor.jpg”. */
export const pictureFileOf = (role: Role, material: string, naming: Naming, file: PictureFile): string =>
  `${NAMINGS[naming].of(role, fileNameOf(material, 'material').split('-'))}.${PICTURE_FILES[file].ending}`;
