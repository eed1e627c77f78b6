import { PerspectiveCamera, Sphere, Vector3 } from 'three';
import type { Spec } from '@/core/specification/schema';
import { laidSpec } from '@/core/testing/surfaces';
import type { Entry } from './entry';
import { nearest, pieceShare, pieceWidth, Sight } from './nearness';

const tile = laidSpec({
  layout: { kind: 'grid', widthMm: 200, heightMm: 100, shift: 0, diagonal: false, across: null, up: null },
  joint: 10,
});
const whole = laidSpec({ layout: { kind: 'whole' } });

/** A wall of 1 m² at so many metres along −z (before the camera) or z (behind it). */
const wall = (z: number, spec: Spec | null = tile, rest: object = {}) =>
  ({
    region: { spec },
    mesh: { visible: true },
    sphere: new Sphere(new Vector3(0, 0, z), 0.5),
    sheet: { area: 1e6 },
    pieces: null,
    ...rest,
  }) as unknown as Entry;

const camera = new PerspectiveCamera(50, 1, 0.1, 1000);
const sight = new Sight(camera, 800);

describe('the size of pieces', () => {
  test('is the shorter side of one, and none where the picture lies whole', () => {
    expect(pieceWidth({ spec: tile })).toBe(100);
    expect(pieceWidth({ spec: whole })).toBeNull();
    expect(pieceWidth({ spec: null })).toBeNull();
  });

  test('with their joints they make up the area', () => {
    expect(pieceShare({ spec: tile })).toBeCloseTo((200 * 100) / (210 * 110), 9);
    expect(pieceShare({ spec: whole })).toBe(1);
  });
});

describe('nearness', () => {
  test('a millimetre is as large as the lens makes it at the nearest point', () => {
    // 10.5 m away less half a metre: 800 px over 2 · 10 m · tan 25°
    expect(sight.pxPerMm(wall(-10.5))).toBeCloseTo(800 / (2 * 10_000 * Math.tan((25 * Math.PI) / 180)), 9);
    expect(sight.sees(wall(-10))).toBe(true);
    expect(sight.sees(wall(10))).toBe(false);
  });

  test('what is too far for its pieces to be told apart is left out, as is what is hidden or lies whole', () => {
    // 100 mm are 0.8 px at 107 m
    const [near, far] = [wall(-100), wall(-120)];
    const hidden = wall(-5, tile, { mesh: { visible: false } });
    expect(nearest([near, far, hidden, wall(-5, whole), wall(-5, null)], sight, Infinity)).toEqual([near]);
  });

  test('what is seen comes before what is behind, and near before far', () => {
    const [a, b, behind] = [wall(-4), wall(-9), wall(2)];
    expect(nearest([b, behind, a], sight, Infinity)).toEqual([a, b, behind]);
  });

  test('there are no more than the bytes allow, but one at least', () => {
    const walls = [-2, -3, -4, -5].map((z) => wall(z, tile, { pieces: { bytes: 100 } }));
    expect(nearest(walls, sight, 250)).toEqual(walls.slice(0, 2));
    expect(nearest(walls, sight, 10)).toEqual(walls.slice(0, 1));
    // what is not laid yet is counted by its area: fifty tiles of 1 m²
    expect(nearest([wall(-2), wall(-3)], sight, 40_000)).toHaveLength(1);
    expect(nearest([wall(-2), wall(-3)], sight, 80_000)).toHaveLength(2);
  });
});
