import type { RawPicture, Remark, Slot } from '../../mesh/types';
import { decodeText, extensionOf, type FileSet, findReference } from '../fileSet';
import { parseMtl } from './mtl';

/** The slot of faces that name no material. */
export const NO_MATERIAL = 'No material';

/** Some names, and how many more there are. */
const listed = (names: string[]): string =>
  names
    .slice(0, 5)
    .map((n) => `“${n}”`)
    .join(', ') + (names.length > 5 ? ` and ${names.length - 5} more` : '');

const MIME: Record<string, string> = {
  png: 'image/png',
  jpg: 'image/jpeg',
  jpeg: 'image/jpeg',
  webp: 'image/webp',
  tif: 'image/tiff',
  tiff: 'image/tiff',
  tga: 'image/x-tga',
  bmp: 'image/bmp',
};

/** Reads the MTL files into the slots, and the pictures they name. */
export function readLibraries(files: FileSet, path: string, names: string[], slots: Slot[]) {
  const remarks: Remark[] = [];
  const pictures = new Map<string, RawPicture>();
  const missing = new Set<string>();
  const defined = new Set<string>();
  const used = new Set<string>();
  for (const name of names) {
    const found =
      findReference(files, path, name) ??
      name
        .split(/\s+/)
        .map((n) => findReference(files, path, n))
        .find(Boolean);
    if (!found) {
      remarks.push({ kind: 'missing', text: `the material file “${name}” did not come along; slots have names only` });
      continue;
    }
    const library = parseMtl(decodeText(files.read(found)));
    for (const name of library.keys()) defined.add(name);
    for (const slot of slots) {
      const entry = library.get(slot.name);
      if (!entry) continue;
      Object.assign(slot, { ...entry, name: slot.name });
      for (const [role, reference] of Object.entries(slot.pictures)) {
        const picture = findReference(files, found, reference);
        const mime = MIME[extensionOf(reference)];
        if (picture === null || !mime) {
          missing.add(mime ? reference : `${reference} (a kind of picture that is not read)`);
          if (picture === null) continue;
          delete slot.pictures[role];
        } else {
          used.add(picture);
          pictures.set(reference, { path: reference, bytes: files.read(picture), mime });
        }
      }
    }
  }
  const undefinedSlots = slots
    .filter((s) => s.name && s.name !== NO_MATERIAL && !defined.has(s.name))
    .map((s) => s.name);
  if (undefinedSlots.length && defined.size)
    remarks.push({ kind: 'missing', text: `no material file defines ${listed(undefinedSlots)}; they have names only` });
  const unnamed = files.paths.filter((p) => extensionOf(p) in MIME && !used.has(p));
  if (unnamed.length) remarks.push({ kind: 'left out', text: `no material names ${listed(unnamed)}` });
  return { remarks, pictures: [...pictures.values()], missing: [...missing] };
}
