import { BufferAttribute, type BufferGeometry, Color } from 'three';

/** Overlays of the room: how true a surface lies, and how many pixels its picture has for each millimetre. */

export type Measure = 'stretch' | 'density';

/** Colours from the least value to the greatest; the middle is as it should be. */
const STOPS = ['#2f4b7c', '#7f98bd', '#e9e4d6', '#d59a74', '#a83a2e'];
const UNKNOWN = new Color('#9a958a');

/** Where a value lies from 0 to 1: stretch from two thirds to one and a half, density from a quarter pixel to four. */
const RANGES: Record<Measure, number> = { stretch: Math.log2(1.5), density: 2 };

export const legendOf = (measure: Measure): { colours: string[]; low: string; middle: string; high: string } =>
  measure === 'stretch'
    ? { colours: STOPS, low: 'squeezed, 67%', middle: 'true', high: '150%, stretched' }
    : { colours: [...STOPS].reverse(), low: '0.25 px/mm', middle: '1 px/mm', high: '4 px/mm' };

function ramp(value: number, measure: Measure, out: Color): Color {
  const share = Math.min(1, Math.max(0, 0.5 + Math.log2(value) / (2 * RANGES[measure])));
  // few pixels are the trouble, whatever their number: there the ramp runs the other way
  const at = (measure === 'stretch' ? share : 1 - share) * (STOPS.length - 1);
  const n = Math.min(STOPS.length - 2, Math.floor(at));
  return out.set(STOPS[n]).lerp(other.set(STOPS[n + 1]), at - n);
}
const other = new Color();

/**
 * Gives every vertex the colour of its measure.
 * @param pxPerMm of the picture as laid, before stretch; null where there is none
 */
export function colourByMeasure(geometry: BufferGeometry, measure: Measure, pxPerMm: number | null): void {
  const key = `${measure} ${pxPerMm}`;
  if (geometry.userData.measure === key) return;
  geometry.userData.measure = key;
  const stretch = geometry.getAttribute('stretch').array;
  const colours = new Float32Array(stretch.length * 3);
  const c = new Color();
  for (let n = 0; n < stretch.length; n++) {
    if (measure === 'density' && pxPerMm === null) c.copy(UNKNOWN);
    else ramp(measure === 'stretch' ? stretch[n] : pxPerMm! * stretch[n], measure, c);
    c.toArray(colours, n * 3);
  }
  geometry.setAttribute('color', new BufferAttribute(colours, 3));
}
