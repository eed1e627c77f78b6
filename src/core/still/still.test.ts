import fc from 'fast-check';
import type { Vec3 } from '../geometry/vec';
import type { Lights } from '../light/trace';
import { RayGrid } from '../mesh/RayGrid';
import { developLight, meantAt, meterLight } from './develop';
import { emptyLight, type Gathered, gatherRow, type LitStage } from './gather';
import { smoothLight } from './smooth';
import { TracedScene, type TracedSurface } from './TracedScene';
import { raysOf, type StillFrame, wholeFrame } from './view';

const NOTHING = { normals: new Float32Array(), uvs: new Float32Array(), glow: [0, 0, 0] as Vec3, seeThrough: false };
/** A square of 2 m that faces +z, mm. */
const square = (z: number, rest: Partial<TracedSurface> = {}): TracedSurface => ({
  ...NOTHING,
  origin: [0, 0, z],
  positions: Float32Array.of(-1000, -1000, 0, 1000, -1000, 0, 1000, 1000, 0, -1000, 1000, 0),
  indices: Uint32Array.of(0, 1, 2, 0, 2, 3),
  colour: [0.5, 0.4, 0.3],
  picture: null,
  ...rest,
});
const SQUARE_UVS = Float32Array.of(0, 0, 1, 0, 1, 1, 0, 1);
const sceneOf = (...surfaces: TracedSurface[]) => new TracedScene(surfaces, new RayGrid(surfaces));
const WHITE: Lights = {
  daylight: { sun: { towards: [0, 1, 0], light: [0, 0, 0] }, around: () => [1, 1, 1], harmonics: [], card: [1, 1, 1] },
  lamps: [],
};
const stageOf = (...surfaces: TracedSurface[]): LitStage => ({
  seen: sceneOf(...surfaces),
  around: sceneOf(...surfaces),
  lights: WHITE,
});
const VIEW = { eye: [0, 0, 4] as Vec3, target: [0, 0, 0] as Vec3 };
function gather(stage: LitStage, frame: StillFrame, samples: number, light = emptyLight(frame)): Gathered {
  for (; light.samples < samples; light.samples++)
    for (let row = 0; row < frame.region.height; row++) gatherRow(stage, VIEW, 2, light, row);
  return light;
}
const pixel = (of: ArrayLike<number>, width: number, x: number, y: number) =>
  [0, 1, 2].map((c) => of[(y * width + x) * 3 + c]);

describe('what a ray meets', () => {
  const picture = {
    width: 2,
    height: 2,
    // red, green above blue, half see-through black
    pixels: Uint8Array.of(255, 0, 0, 255, 0, 255, 0, 255, 0, 0, 255, 255, 0, 0, 0, 0),
  };

  test('the picture is looked up where it lies, with its tone and colour', () => {
    const tones = new Float32Array(12).fill(0.5);
    const scene = sceneOf(square(0, { uvs: SQUARE_UVS, picture, tones, colour: [1, 0.5, 1] }));
    const at = (x: number, y: number) =>
      scene.cast([x, y, 3], [0, 0, -1])!.albedo.map((v) => Math.round(v * 1e4) / 1e4);
    expect(at(-0.5, 0.5)).toEqual([0.5, 0, 0]);
    expect(at(0.5, 0.5)).toEqual([0, 0.25, 0]);
    expect(at(-0.5, -0.5)).toEqual([0, 0, 0.5]);
  });

  test('what is see-through lets a ray pass, and what lies behind is met', () => {
    const scene = sceneOf(square(500, { uvs: SQUARE_UVS, picture, seeThrough: true, colour: [1, 1, 1] }), square(0));
    expect(scene.cast([0.5, -0.5, 3], [0, 0, -1])).toMatchObject({ distance: expect.closeTo(3, 3), back: false });
    expect(scene.cast([-0.5, 0.5, 3], [0, 0, -1])!.distance).toBeCloseTo(2.5, 6);
    expect(scene.blocked([0.5, -0.5, 3], [0, 0, -1], 2.9)).toBe(false);
    expect(scene.blocked([0.5, -0.5, 3], [0, 0, -1], 3.1)).toBe(true);
    expect(scene.cast([0, 0, 1], [0, 0, 1])).toBeNull();
  });

  test('from behind it faces the one who looks', () => {
    const hit = sceneOf(square(0)).cast([0, 0, -2], [0, 0, 1])!;
    expect(hit).toMatchObject({ back: true });
    expect(hit.normal[2]).toBeCloseTo(-1);
  });
});

describe('the view', () => {
  test('its middle is the target; a lens of 12 mm sees as far up as ahead', () => {
    const rayAt = raysOf({ ...VIEW, lensMm: 12 }, { widthPx: 300, heightPx: 200 });
    rayAt(150, 100).forEach((v, c) => expect(v).toBeCloseTo([0, 0, -1][c], 12));
    const up = rayAt(150, 0);
    expect(up[1] / -up[2]).toBeCloseTo(1, 12);
    const right = rayAt(300, 100);
    expect(right[0] / -right[2]).toBeCloseTo(1.5, 12);
  });

  test('straight down, north is above', () => {
    const rayAt = raysOf({ eye: [0, 5, 0], target: [0, 0, 0] }, { widthPx: 100, heightPx: 100 });
    expect(rayAt(50, 0)[2]).toBeLessThan(0);
  });
});

describe('gathered light', () => {
  const stage = stageOf(square(0), square(-900, { colour: [0.9, 0.9, 0.9] }));

  test('a region is the same part of the whole, whatever it is', () => {
    const [w, h] = [12, 8];
    const whole = gather(stage, wholeFrame(w, h), 3);
    fc.assert(
      fc.property(fc.nat(w - 1), fc.nat(h - 1), fc.nat(), fc.nat(), (x, y, a, b) => {
        const region = { x, y, width: 1 + (a % (w - x)), height: 1 + (b % (h - y)) };
        const part = gather(stage, { widthPx: w, heightPx: h, region }, 3);
        for (let j = 0; j < region.height; j++)
          for (let i = 0; i < region.width; i++)
            expect(pixel(part.sums, region.width, i, j)).toEqual(pixel(whole.sums, w, x + i, y + j));
      }),
      { numRuns: 20 },
    );
  });

  test('what was stopped goes on as if it never had been', () => {
    const frame = wholeFrame(10, 6);
    const stopped = gather(stage, frame, 2);
    const kept: Gathered = { ...stopped, sums: stopped.sums.slice(), guides: stopped.guides.slice() };
    expect(gather(stage, frame, 5, kept).sums).toEqual(gather(stage, frame, 5).sums);
  });

  test('under a white sky a convex thing sends back its own colour; a grey card reads its value', () => {
    const light = gather(stageOf(square(0, { colour: [0.18, 0.18, 0.18] })), wholeFrame(3, 3), 4);
    const seen = developLight(light, { curve: 'neutral', exposure: 1, white: [1, 1, 1] });
    // 0.18 linear is 118 in sRGB
    expect(pixel(seen, 3, 1, 1)).toEqual([118, 118, 118]);
  });

  test('in a corner it is darker than under the open sky', () => {
    const floor: TracedSurface = {
      ...square(0, { colour: [0.1, 0.1, 0.1] }),
      positions: Float32Array.of(-1000, -1000, 1, 1000, -1000, 1, 1000, -1000, 2001, -1000, -1000, 2001),
    };
    const corner = stageOf(square(0, { colour: [0.8, 0.8, 0.8] }), floor);
    const light = gather(corner, wholeFrame(6, 24), 64);
    const rows = Array.from({ length: 24 }, (_, y) =>
      light.met[y * 6 + 3] === 64 ? pixel(light.sums, 6, 3, y)[0] : 0,
    );
    const seen = rows.filter((v) => v > 0);
    expect(seen.at(-8)!).toBeLessThan(0.95 * seen[0]);
  });

  test('nothing can be developed of nothing', () => {
    expect(() => developLight(emptyLight(wholeFrame(2, 2)), { curve: 'film', exposure: 1, white: [1, 1, 1] })).toThrow(
      /no light was gathered/,
    );
  });
});

describe('metering', () => {
  test('a picture that is all one light becomes what is meant; by night less', () => {
    const light = gather(stageOf(square(0, { colour: [0.5, 0.5, 0.5] })), wholeFrame(2, 2), 4);
    light.sums.fill(0.05 * light.samples);
    expect(0.05 * meterLight(light, meantAt(1))).toBeCloseTo(0.22, 6);
    expect(meantAt(0.001)).toBeLessThan(meantAt(1));
    expect(meantAt(5)).toBe(meantAt(1));
  });
});

describe('grain', () => {
  /** Two walls side by side, each evenly lit, with grain; the edge lies between columns 15 and 16. */
  function grainy(): Gathered {
    const frame = wholeFrame(32, 24);
    const light = emptyLight(frame);
    light.samples = 4;
    for (let p = 0; p < 32 * 24; p++) {
      const right = p % 32 >= 16;
      const grain = 1 + 0.5 * Math.sin(p * 12.9898) * Math.cos(p * 78.233);
      light.sums.fill((right ? 0.4 : 0.1) * grain * 4, p * 3, p * 3 + 3);
      light.guides.set([2, 2, 2, right ? 4 : 0, 0, right ? 0 : 4, 12], p * 7);
    }
    return light;
  }
  const spreadOf = (sums: Float32Array, from: number, to: number) => {
    const list = Array.from(
      { length: 24 * (to - from) },
      (_, n) => sums[(Math.floor(n / (to - from)) * 32 + from + (n % (to - from))) * 3],
    );
    const mean = list.reduce((a, b) => a + b) / list.length;
    return { mean, spread: Math.sqrt(list.reduce((s, v) => s + (v - mean) ** 2, 0) / list.length) / mean };
  };

  test('goes, the light stays, and nothing runs over an edge', () => {
    const before = grainy();
    const after = smoothLight(before);
    for (const [from, to] of [
      [0, 16],
      [16, 32],
    ]) {
      const [was, is] = [spreadOf(before.sums, from, to), spreadOf(after.sums, from, to)];
      expect(is.mean / was.mean).toBeCloseTo(1, 1);
      expect(is.spread).toBeLessThan(was.spread / 3);
    }
    expect(spreadOf(after.sums, 14, 16).mean).toBeLessThan(0.5);
  });

  test('what things look like is left as it is', () => {
    const light = grainy();
    // evenly lit stripes of dark and bright
    for (let p = 0; p < 32 * 24; p++) {
      const albedo = p % 2 ? 0.8 : 0.2;
      light.guides.set([albedo * 4, albedo * 4, albedo * 4, 0, 0, 4, 12], p * 7);
      light.sums.fill(albedo * 0.5 * 4, p * 3, p * 3 + 3);
    }
    const { sums } = smoothLight(light);
    sums.forEach((v, n) => expect(v).toBeCloseTo(light.sums[n], 5));
  });
});
