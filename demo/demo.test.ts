import { fileSetOf } from '@/core/formats/fileSet';
import { readModel } from '@/core/formats/readModel';
import { prepareModel } from '@/core/mesh/prepare';
import { paintRecipe, type Texel } from './materials/canvas';
import { RECIPES } from './materials/index';
import { writePellowLanding } from './model/glb';

const texel = (): Texel => ({ r: 0, g: 0, b: 0, height: 0, roughness: 0, opacity: 1, metallic: 0 });

describe('materials made by code', () => {
  test.each(RECIPES.map((r) => [r.id, r] as const))('%s closes on itself without a seam', (_id, recipe) => {
    const at = (x: number, y: number) => {
      const t = texel();
      recipe.paint(x, y, t);
      return [t.r, t.g, t.b];
    };
    // a pixel's step over the wrap must be no larger than steps inside usually are
    const step = recipe.widthMm / recipe.widthPx;
    const jump = (x0: number, y0: number, x1: number, y1: number) => {
      const [p, q] = [at(x0, y0), at(x1, y1)];
      return Math.abs(p[0] - q[0]) + Math.abs(p[1] - q[1]) + Math.abs(p[2] - q[2]);
    };
    const mean = (f: (i: number) => number) =>
      Array.from({ length: 400 }, (_, i) => f(i)).reduce((a, b) => a + b) / 400;
    const { widthMm: w, heightMm: h } = recipe;
    const across = mean((i) => jump(w - step / 2, ((i + 0.5) * h) / 400, step / 2, ((i + 0.5) * h) / 400));
    const upwards = mean((i) => jump(((i + 0.5) * w) / 400, h - step / 2, ((i + 0.5) * w) / 400, step / 2));
    // joints lie at leaf borders, so inner lines are taken over joints too
    const columns = recipe.leaves?.columns ?? 7;
    const rows = recipe.leaves?.rows ?? 7;
    const inner = (n: number, f: (i: number, k: number) => number) =>
      Math.max(...Array.from({ length: n }, (_, k) => mean((i) => f(i, k + 1))));
    const innerX = inner(columns, (i, k) =>
      jump(
        (k * w) / (columns + (columns === 7 && !recipe.leaves ? 1 : 0)) - step / 2,
        ((i + 0.5) * h) / 400,
        ((k * w) / (columns + (columns === 7 && !recipe.leaves ? 1 : 0)) + step / 2) % w,
        ((i + 0.5) * h) / 400,
      ),
    );
    const innerY = inner(rows, (i, k) =>
      jump(
        ((i + 0.5) * w) / 400,
        (k * h) / (rows + (rows === 7 && !recipe.leaves ? 1 : 0)) - step / 2,
        ((i + 0.5) * w) / 400,
        ((k * h) / (rows + (rows === 7 && !recipe.leaves ? 1 : 0)) + step / 2) % h,
      ),
    );
    expect(across).toBeLessThanOrEqual(innerX * 1.6 + 0.02);
    expect(upwards).toBeLessThanOrEqual(innerY * 1.6 + 0.02);
  });

  test('every recipe has a size, maps of the right kind, and repeats itself exactly', () => {
    expect(new Set(RECIPES.map((r) => r.id)).size).toBe(RECIPES.length);
    for (const recipe of RECIPES) {
      expect(recipe.widthPx * recipe.heightPx).toBeGreaterThanOrEqual(1024 * 1024);
      const small = { ...recipe, widthPx: 48, heightPx: 48 };
      const [one, two] = [paintRecipe(small), paintRecipe(small)];
      expect(Object.keys(one.maps)).toEqual(
        expect.arrayContaining(['baseColour', 'normal', 'roughness', 'height', ...(recipe.also ?? [])]),
      );
      expect(Buffer.from(one.maps.baseColour.data).equals(Buffer.from(two.maps.baseColour.data))).toBe(true);
      expect(one.colour).toMatch(/^#[0-9a-f]{6}$/);
    }
  });

  test('jute webbing is open between its bands, steel is metal', () => {
    const jute = paintRecipe({ ...RECIPES.find((r) => r.id === 'jute-webbing')!, widthPx: 120, heightPx: 120 });
    const open = jute.maps.opacity.data.filter((v) => v === 0).length / jute.maps.opacity.data.length;
    // gaps of 20 on a pitch of 75 both ways
    expect(open).toBeGreaterThan(0.03);
    expect(open).toBeLessThan(0.12);
    const steel = paintRecipe({ ...RECIPES.find((r) => r.id === 'brushed-metal')!, widthPx: 16, heightPx: 16 });
    expect(steel.maps.metallic.data.every((v) => v === 255)).toBe(true);
  });
});

describe('Pellow Landing', () => {
  test('has the parts a ferry landing has, at their sizes, and is the same file every time', async () => {
    const glb = await writePellowLanding();
    expect(Buffer.from(glb).equals(Buffer.from(await writePellowLanding()))).toBe(true);
    const model = prepareModel(await readModel(fileSetOf({ 'p.glb': glb })), { unitMm: 1000, upAxis: 'y' });
    const part = (name: string) => model.parts.find((p) => p.name === name)!;
    const size = (name: string) => part(name).bounds.max.map((v, i) => Math.round(v - part(name).bounds.min[i]));
    for (const name of [
      'Hall floor',
      'Long wall',
      'Boat door',
      'Tea counter',
      'Counter top',
      'Bench 1',
      'Lining',
      'Lobby floor',
      'Mat well',
      'Globe lamp 1',
      'Framed notice',
      'Bollard band',
      'Landing stage',
      'Watch room floor',
      'Round window ring 1',
    ]) {
      expect(part(name)).toBeDefined();
    }
    expect(size('Hall floor')).toEqual([12400, 22, 7200]);
    expect(size('Watch room floor')).toEqual([5400, 20, 4200]);
    expect(size('Column 1')).toEqual([460, 3400, 460]);
    expect(part('Landing stage').bounds.max[1]).toBeCloseTo(-600, 2);
    // the ring of brick: clear diameter 900, 215 deep
    expect(size('Round window ring 1').slice(0, 2)).toEqual([1330, 1330]);
  });
});
