import fc from 'fast-check';
import { linearOfHex, toLinear } from '../colour/srgb';
import { buildSheet } from '../mapping/sheet';
import { RayGrid } from '../mesh/RayGrid';
import { blankRaster, type Raster, WHITE } from '../picture/raster';
import { rectangle, wallMesh, wallSheet } from '../testing/surfaces';
import { bakeWear, grainOf, wearAt, type WearSources } from './bake';
import { evenNoise } from './noise';
import { newMark } from './markFields';
import { joinPictures, sampleRaster } from './pictures';
import { placesOn } from './places';
import { WEAR_KINDS, wearKindOf } from './registry';
import { isWorn, materialsOfWear, noWear, swapInWear, type WearLayer, type WearSpec } from './schema';

const NOTHING: WearSources = { surroundings: null, northDeg: 0, pictures: {} };
const first = <K extends WearLayer['kind']>(kind: K) => wearKindOf({ kind }).first as Extract<WearLayer, { kind: K }>;
const worn = (...layers: WearLayer[]): WearSpec => ({ layers, marks: [] });
const wall = wallMesh([rectangle(4000, 2500)]);
const sheet = wallSheet(wall);

/** A quarter of the plane red and opaque, a quarter green and half clear, the rest clear. */
function flag(width = 8, height = 8): Raster {
  const made = blankRaster(width, height, 4);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const at = (y * width + x) * 4;
      const [left, top] = [x < width / 2, y < height / 2];
      made.data.set(left && top ? [WHITE, 0, 0, WHITE] : left ? [0, WHITE, 0, WHITE / 2] : [0, 0, 0, 0], at);
    }
  return made;
}

describe('noise', () => {
  test('is spread evenly: a share of it is a share of the surface', () => {
    const tenths = new Array<number>(10).fill(0);
    for (let y = 0; y < 200; y++)
      for (let x = 0; x < 200; x++) tenths[Math.min(9, Math.floor(evenNoise(x * 37, y * 37, 500, 20, 5) * 10))]++;
    for (const n of tenths) {
      expect(n / 40_000).toBeGreaterThan(0.1 * 0.66);
      expect(n / 40_000).toBeLessThan(0.1 * 1.34);
    }
  });

  test.each([0.15, 0.4, 0.8])('dirt over %f of a surface covers about that much of it', (share) => {
    const large = wallSheet(wallMesh([rectangle(30_000, 30_000)]));
    const dirt = { ...first('dirt'), share, softness: 0.1, strength: 1, sizeMm: 4000 };
    const { colour } = bakeWear(large, worn(dirt), NOTHING)!;
    let covered = 0;
    for (let i = 3; i < colour.length; i += 4) covered += colour[i] / 255;
    expect(covered / (colour.length / 4)).toBeGreaterThan(share - 0.1);
    expect(covered / (colour.length / 4)).toBeLessThan(share + 0.1);
  });
});

describe('places', () => {
  test('lie where the sheet says, as far apart as asked', () => {
    const places = placesOn(sheet, sheet.bounds, 100);
    expect([places.columns, places.rows]).toEqual([40, 25]);
    for (let n = 0; n < places.face.length; n++) {
      expect(places.face[n]).toBeGreaterThanOrEqual(0);
      expect(places.at[n * 3]).toBeCloseTo(50 + 100 * (n % 40), 3);
      expect(places.at[n * 3 + 1]).toBeCloseTo(50 + 100 * Math.floor(n / 40), 3);
      expect([...places.normal.subarray(n * 3, n * 3 + 3)]).toEqual([0, 0, 1]);
    }
  });

  test('none lies in an opening', () => {
    const window = rectangle(1000, 1000)
      .map(([x, y]): [number, number] => [x + 1500, y + 800])
      .reverse();
    const places = placesOn(wallSheet(wallMesh([rectangle(4000, 2500), window])), sheet.bounds, 100);
    for (let n = 0; n < places.face.length; n++) {
      const [x, y] = [50 + 100 * (n % 40), 50 + 100 * Math.floor(n / 40)];
      expect(places.face[n] < 0).toBe(x > 1500 && x < 2500 && y > 800 && y < 1800);
    }
  });
});

describe('what lies on a sheet', () => {
  test('nothing, where nothing is on', () => {
    expect(bakeWear(sheet, noWear(), NOTHING)).toBeNull();
    expect(bakeWear(sheet, worn({ ...first('dirt'), on: false }), NOTHING)).toBeNull();
    expect(isWorn(worn({ ...first('dirt'), strength: 0 }))).toBe(false);
    expect(isWorn(undefined)).toBe(false);
  });

  test('the same numbers at every asking, and a part of a sheet as the whole has it', () => {
    const dirt = { ...first('dirt'), sizeMm: 800 };
    const whole = bakeWear(sheet, worn(dirt), NOTHING)!;
    const again = bakeWear(sheet, worn(dirt), NOTHING)!;
    expect(Buffer.compare(again.colour, whole.colour)).toBe(0);
    expect(Buffer.compare(again.relief, whole.relief)).toBe(0);
    const corner = wallSheet(wallMesh([rectangle(1500, 900)]));
    const part = bakeWear(corner, worn(dirt), NOTHING)!;
    fc.assert(
      fc.property(fc.integer({ min: 20, max: 1480 }), fc.integer({ min: 20, max: 880 }), (x, y) => {
        expect(Math.abs(wearAt(part, x, y).cover - wearAt(whole, x, y).cover)).toBeLessThan(0.03);
      }),
    );
  });

  test('layers cover one another in their order', () => {
    const whole = { share: 1, softness: 0, strength: 1 };
    const red = { ...first('dirt'), ...whole, colour: '#ff0000', roughness: 0.1 };
    const blue = { ...first('dirt'), ...whole, colour: '#0000ff', roughness: 0.9, strength: 0.5 };
    const at = wearAt(bakeWear(sheet, worn(red, blue), NOTHING)!, 2000, 1000);
    // half blue over red, mixed as light
    expect(at.colour.map(toLinear)[0]).toBeCloseTo(0.5, 1);
    expect(at.colour.map(toLinear)[2]).toBeCloseTo(0.5, 1);
    expect(at.cover).toBeCloseTo(1, 2);
    expect(at.roughness).toBeCloseTo(0.5, 2);
    const other = wearAt(bakeWear(sheet, worn(blue, red), NOTHING)!, 2000, 1000);
    expect(other.colour).toEqual([1, 0, 0]);
  });

  test('a rubbed path covers its middle, fades over its edge and is nowhere else', () => {
    const path = {
      ...first('rubbed'),
      strength: 1,
      points: [
        [500, 500],
        [3500, 500],
      ],
      widthMm: 600,
      softMm: 200,
    };
    const baked = bakeWear(sheet, worn(path as WearLayer), NOTHING)!;
    const covers = (x: number, y: number) => wearAt(baked, x, y).cover;
    expect(covers(2000, 500)).toBeGreaterThan(0.65);
    expect(covers(2000, 500 + 200)).toBeGreaterThan(0.65);
    expect(covers(2000, 500 + 300) / covers(2000, 500)).toBeGreaterThan(0.2);
    expect(covers(2000, 500 + 300) / covers(2000, 500)).toBeLessThan(0.8);
    expect(covers(2000, 500 + 420)).toBe(0);
    expect(covers(2000, 2000)).toBe(0);
  });

  test('its thickness rises at its edge, away from what it covers', () => {
    const path = {
      ...first('rubbed'),
      reliefMm: 20,
      points: [
        [500, 1000],
        [3500, 1000],
      ],
      widthMm: 400,
      softMm: 100,
    };
    const { relief, bounds, pixelMm, width, isRaised } = bakeWear(sheet, worn(path as WearLayer), NOTHING)!;
    expect(isRaised).toBe(true);
    const up = (x: number, y: number) => {
      const n = Math.floor((y - bounds.minY) / pixelMm) * width + Math.floor((x - bounds.minX) / pixelMm);
      return relief[n * 4 + 2] - 128;
    };
    expect(up(2000, 800)).toBeGreaterThan(5);
    expect(up(2000, 1200)).toBeLessThan(-5);
    expect(Math.abs(up(2000, 400))).toBeLessThanOrEqual(1);
  });
});

describe('what stands round about', () => {
  /** A floor, and a wall that stands on its edge x = 0. */
  const floor = {
    ...wall,
    positions: Float32Array.of(0, 0, 0, 0, 0, 3000, 3000, 0, 3000, 3000, 0, 0),
    normals: Float32Array.of(0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 1, 0),
    indices: Uint32Array.of(0, 1, 2, 0, 2, 3),
  };
  const upright = {
    ...wall,
    positions: Float32Array.of(0, 0, 0, 0, 0, 3000, 0, 2500, 3000, 0, 2500, 0),
    indices: Uint32Array.of(0, 1, 2, 0, 2, 3),
  };
  const flat = buildSheet(floor, [0, 2], { kind: 'flat', direction: 'auto' });
  const around: WearSources = { ...NOTHING, surroundings: new RayGrid([floor, upright]) };
  /** Places of the sheet by where they lie in space. */
  const places = placesOn(flat, flat.bounds, 50);
  const meanAt = (baked: ReturnType<typeof bakeWear>, x: number) => {
    let [sum, count] = [0, 0];
    for (let n = 0; n < places.face.length; n++) {
      if (Math.abs(places.at[n * 3] - x) > 30) continue;
      const [i, j] = [n % places.columns, Math.floor(n / places.columns)];
      sum += wearAt(baked!, places.x + i * 50, places.y + j * 50).cover;
      count++;
    }
    return sum / count;
  };

  test('dust lies in the corner and thins out within its reach', () => {
    const dust = { ...first('dust'), strength: 1, corners: 1, ledges: 0, reachMm: 400 };
    const baked = bakeWear(flat, worn(dust), around);
    expect(meanAt(baked, 25)).toBeGreaterThan(0.6);
    expect(meanAt(baked, 25)).toBeGreaterThan(meanAt(baked, 225) * 1.5);
    expect(meanAt(baked, 625)).toBeLessThan(0.02);
    // on a ledge without a corner it lies as well
    const ledges = bakeWear(flat, worn({ ...dust, corners: 0, ledges: 1 }), around);
    expect(meanAt(ledges, 1525)).toBeGreaterThan(0.5);
  });

  test('the sun bleaches as far as it comes: not in the shade of a wall', () => {
    const bleached = { ...first('bleached'), strength: 1, bearingDeg: 270 };
    const behind = bakeWear(flat, worn(bleached), around);
    const open = bakeWear(flat, worn({ ...bleached, bearingDeg: 90 }), around);
    expect(meanAt(behind, 125)).toBeLessThan(0.05);
    expect(meanAt(open, 125)).toBeGreaterThan(0.5);
    // turned north, the same sun comes from elsewhere
    const turned = bakeWear(flat, worn({ ...bleached, bearingDeg: 90 }), { ...around, northDeg: 180 });
    expect(meanAt(turned, 125)).toBeLessThan(0.05);
  });
});

describe('marks', () => {
  const picture = joinPictures(flag(), null, '#000000', { widthMm: 400, heightMm: 400 });
  const sources = { ...NOTHING, pictures: { flag: picture } };
  const at = (mark: Partial<ReturnType<typeof newMark>>, x: number, y: number) => {
    const wear: WearSpec = { layers: [], marks: [{ ...newMark('flag', [2000, 1000]), strength: 1, ...mark }] };
    return wearAt(bakeWear(sheet, wear, sources)!, x, y);
  };

  test('lie at their true size with their middle where they were put, see-through where they are', () => {
    expect(at({}, 1900, 1100)).toMatchObject({ colour: [1, 0, 0], cover: 1 });
    expect(at({}, 1900, 900).colour).toEqual([0, 1, 0]);
    expect(at({}, 1900, 900).cover).toBeCloseTo(0.5, 1);
    expect(at({}, 2100, 1100).cover).toBe(0);
    expect(at({}, 1760, 1100).cover).toBe(0);
  });

  test('turned counter-clockwise, and larger', () => {
    expect(at({ turnDeg: 90 }, 1900, 900)).toMatchObject({ colour: [1, 0, 0], cover: 1 });
    expect(at({ percent: 300 }, 1700, 1300)).toMatchObject({ colour: [1, 0, 0], cover: 1 });
  });

  test('one whose picture is not there is left out, and nothing fails', () => {
    expect(bakeWear(sheet, { layers: [], marks: [newMark('gone', [0, 0])] }, NOTHING)).toBeNull();
  });

  test('a surface too large for their pixels says so', () => {
    const long = wallSheet(wallMesh([rectangle(40_000, 3000)]));
    const fine = joinPictures(flag(400, 400), null, '#000000', { widthMm: 400, heightMm: 400 });
    const wear: WearSpec = { layers: [], marks: [newMark('flag', [2000, 1000])] };
    const grain = (of: typeof long) =>
      grainOf(
        of,
        wear,
        () => fine.widthMm,
        () => fine.raster.width,
      );
    expect(grain(long).wantedMm).toBeCloseTo(1, 6);
    expect(grain(long).pixelMm).toBeGreaterThan(5);
    expect(bakeWear(long, wear, { ...NOTHING, pictures: { flag: fine } })!.pixelMm).toBe(grain(long).pixelMm);
    // four million pixels over 4 × 2.5 m
    expect(grain(sheet).pixelMm).toBeCloseTo(Math.sqrt(10e6 / 4e6), 6);
  });

  test('are the pattern of dirt as well', () => {
    const dirt = { ...first('dirt'), pattern: 'flag', sizeMm: 800, share: 0.5, softness: 0, strength: 1 };
    const baked = bakeWear(sheet, worn(dirt), sources)!;
    // the opaque quarter, at every repeat of 800 mm
    expect(wearAt(baked, 200, 600).cover).toBe(1);
    expect(wearAt(baked, 1000, 1400).cover).toBe(1);
    expect(wearAt(baked, 600, 600).cover).toBe(0);
  });
});

describe('pictures', () => {
  test('from afar the mean is seen, colour only as far as it covers', () => {
    const out: [number, number, number, number] = [0, 0, 0, 0];
    sampleRaster(flag(), 0.5, 0.5, 1, false, out);
    expect(out[3]).toBeCloseTo(0.375, 1);
    expect(out[0]).toBeCloseTo(2 / 3, 1);
    expect(out[1]).toBeCloseTo(1 / 3, 1);
  });

  test('opacity of another size is joined by place; without a picture the plain colour is seen', () => {
    const clear = blankRaster(2, 2, 3);
    clear.data.set([WHITE, 0, 0, 0, 0, 0, 0, 0, 0, WHITE, 0, 0]);
    const { raster } = joinPictures(null, clear, '#804020', { widthMm: 10, heightMm: 10 });
    expect(raster.channels).toBe(4);
    expect([3, 7, 11, 15].map((i) => raster.data[i])).toEqual([WHITE, 0, 0, WHITE]);
    const out: [number, number, number, number] = [0, 0, 0, 0];
    sampleRaster(raster, 0.25, 0.75, 0, false, out);
    linearOfHex('#804020').forEach((v, c) => expect(out[c]).toBeCloseTo(v, 3));
  });
});

test('materials are named wherever they are used, and one is put in the place of another', () => {
  const wear: WearSpec = {
    layers: [{ ...first('dirt'), pattern: 'soot' }, first('dust')],
    marks: [newMark('tar', [0, 0])],
  };
  expect(materialsOfWear(wear)).toEqual(['soot', 'tar']);
  expect(materialsOfWear(swapInWear(wear, 'tar', 'chalk'))).toEqual(['soot', 'chalk']);
  expect(materialsOfWear(swapInWear(wear, 'soot', 'ash'))).toEqual(['ash', 'tar']);
});

test.each(WEAR_KINDS.map((k) => [k.kind, k] as const))('%s: every field sets its own value alone', (_, kind) => {
  const context = { patterns: [['soot', 'Soot']] as const };
  for (const field of kind.fields) {
    if (field.kind !== 'length' && field.kind !== 'number' && field.kind !== 'angle') continue;
    const before = field.get(kind.first, context);
    const after = field.set(kind.first, before + 5, context);
    expect(field.get(after, context)).toBeCloseTo(before + 5, 6);
    for (const other of kind.fields)
      if (other !== field) expect(other.get(after, context)).toEqual(other.get(kind.first, context));
  }
  expect(kind.words(kind.first, (mm) => `${mm} mm`)).toBeTruthy();
});
