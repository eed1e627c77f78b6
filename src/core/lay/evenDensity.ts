import { emptyBox, growBox, type Box3, type Vec3 } from '../geometry/vec';
import type { Sheet } from '../mapping/sheet';
import { nearestFace } from '../mesh/nearestFace';
import { repeatOnSheet } from '../setout/placement';
import { followMaterial, repeatOf, type Sized, type Spec } from '../specification/schema';

/** How large a picture comes out on a surface: its size on the sheet, less what that is stretched. */
export function sizeShown(spec: Spec, material: Sized, sheet: Sheet): Sized {
  const { widthMm, heightMm } = repeatOnSheet(spec, material, sheet);
  const { mean } = sheet.stretch;
  return { widthMm: widthMm / mean, heightMm: heightMm / mean };
}

/** Sizes that differ by less than this share look alike. */
const ALIKE = 0.005;

/** By how much one shows the picture larger than another does: 0.1 is a tenth; 0 where nobody could tell. */
export function largerBy(one: Sized, than: Sized): number {
  const [w, h] = [one.widthMm / than.widthMm - 1, one.heightMm / than.heightMm - 1];
  const most = Math.abs(w) > Math.abs(h) ? w : h;
  return Math.abs(most) > ALIKE ? most : 0;
}

/** A spec that shows its picture as large as another surface does. */
export function showAlike(
  spec: Spec,
  material: Sized,
  like: { spec: Spec; shown: Sized },
  sheet: Pick<Sheet, 'stretch'>,
): Spec {
  const { mean } = sheet.stretch;
  // it follows the material as the other one does, where that comes out as large
  const followed = repeatOf({ ...spec, repeat: followMaterial(spec.repeat, like.spec.repeat.percent) }, material);
  const follows =
    like.spec.repeat.own === null &&
    !largerBy(followed, { widthMm: like.shown.widthMm * mean, heightMm: like.shown.heightMm * mean });
  const repeat = follows
    ? followMaterial(spec.repeat, like.spec.repeat.percent)
    : { ...spec.repeat, own: { widthMm: like.shown.widthMm * mean, heightMm: like.shown.heightMm * mean } };
  return { ...spec, repeat };
}

/** Vertices that are tried. */
const MOST_TRIED = 200;

function boxOf({ mesh, faces }: Sheet): Box3 {
  const box = emptyBox();
  const { positions: p, indices, origin: o } = mesh;
  for (const f of faces) {
    for (let k = 0; k < 3; k++) {
      const v = indices[f * 3 + k] * 3;
      growBox(box, p[v] + o[0], p[v + 1] + o[1], p[v + 2] + o[2]);
    }
  }
  return box;
}

/** Whether two surfaces meet: a vertex of one lies on the other, or nearly. */
export function touches(a: Sheet, b: Sheet, withinMm: number): boolean {
  const [p, q] = [boxOf(a), boxOf(b)];
  for (let c = 0; c < 3; c++) if (p.min[c] > q.max[c] + withinMm || q.min[c] > p.max[c] + withinMm) return false;
  return liesOn(a, b, q, withinMm) || liesOn(b, a, p, withinMm);
}

function liesOn({ mesh, faces }: Sheet, onto: Sheet, box: Box3, withinMm: number): boolean {
  const { positions: p, indices, origin: o } = mesh;
  const near = new Map<number, Vec3>();
  for (const f of faces) {
    for (let k = 0; k < 3; k++) {
      const v = indices[f * 3 + k];
      const at: Vec3 = [p[v * 3] + o[0], p[v * 3 + 1] + o[1], p[v * 3 + 2] + o[2]];
      if (at.every((x, c) => x >= box.min[c] - withinMm && x <= box.max[c] + withinMm)) near.set(v, at);
    }
  }
  const all = [...near.values()];
  const step = Math.max(1, all.length / MOST_TRIED);
  for (let n = 0; n < all.length; n += step)
    if (nearestFace(onto.mesh, onto.faces, all[Math.floor(n)]).mm <= withinMm) return true;
  return false;
}
