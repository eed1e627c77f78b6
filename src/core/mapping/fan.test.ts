import { fieldsKeepTheirOwn } from '../testing/fields';
import { archFace, facesOf, looseMesh, patch, plateFace } from '../testing/shapes';
import { polygon, rectangle } from '../testing/surfaces';
import { fan, type FanMapping, findRing } from './fan';
import { buildSheet } from './sheet';

const { PI } = Math;
const lay = (triangles: number[], mapping: Partial<FanMapping> = {}) => {
  const mesh = looseMesh(triangles);
  return buildSheet(mesh, [0, mesh.indices.length / 3], { ...fan.first, ...mapping });
};
const width = (s: ReturnType<typeof lay>) => s.bounds.maxX - s.bounds.minX;
const height = (s: ReturnType<typeof lay>) => s.bounds.maxY - s.bounds.minY;
const codes = (s: ReturnType<typeof lay>) => s.notes.map((n) => n.code);
const arch = archFace(1000, 1300, 0.2, PI - 0.2, 64);

test('true at a radius of one’s own, and it says so', () => {
  const sheet = lay(arch, { referenceMm: 1150 });
  expect(width(sheet)).toBeCloseTo((PI - 0.4) * 1150, 0);
  expect(sheet.notes.find((n) => n.code === 'trueAtRadius')!.values).toEqual({ radiusMm: 1150 });
});

test('about a centre of one’s own: distances count from there', () => {
  const found = lay(arch);
  expect([found.bounds.minY, found.bounds.maxY].map(Math.round)).toEqual([1000, 1300]);
  const lower = lay(arch, { centre: [0, -500, 0] });
  // the crown is 500 mm further off, the springing less so
  expect(lower.bounds.maxY).toBeCloseTo(1800, 0);
  expect(lower.bounds.minY).toBeLessThan(1500);
  expect(width(lower)).toBeLessThan(width(found));
});

test('where nothing round is found the middle is the centre, and that is said', () => {
  const sheet = lay(plateFace([rectangle(2000, 1000)]));
  expect(codes(sheet)).toContain('noCentre');
  expect(codes(lay(arch))).not.toContain('noCentre');
  expect(codes(lay(plateFace([rectangle(2000, 1000)]), { centre: [0, 0, 0] }))).not.toContain('noCentre');
  // the corners are as far from the middle as they are
  expect(sheet.bounds.maxY).toBeCloseTo(Math.hypot(1000, 500), 0);
});

test('a full ring closes at the seam that is told, an arch has none', () => {
  const ring = plateFace([polygon(665, 64), [...polygon(450, 64)].reverse()]);
  expect(lay(ring).ring).toBeCloseTo(2 * PI * 450, 0);
  expect(lay(ring, { reference: 'outer' }).ring).toBeCloseTo(2 * PI * 665, 0);
  expect(lay(arch).ring).toBeNull();
  for (const seamDeg of [0, 90, 200]) expect(width(lay(ring, { seamDeg }))).toBeCloseTo(2 * PI * 450, 0);
});

test('a back lies beside its front, mirrored so that both are read from their side', () => {
  const back = arch.map((_, i) => {
    // the same triangles 200 mm behind, turned over
    const [f, k, c] = [Math.floor(i / 9), Math.floor((i % 9) / 3), i % 3];
    return arch[f * 9 + [0, 2, 1][k] * 3 + c] - (c === 2 ? 200 : 0);
  });
  const both = lay([...arch, ...back]);
  expect(both.charts).toHaveLength(2);
  expect(both.area).toBeCloseTo(2 * lay(arch).area, -3);
  expect(lay(back).charts).toHaveLength(1);
});

/** A band of 100 mm behind an arch's face, round one of its edges. */
const band = (radius: number, outside: boolean) =>
  patch(64, 1, (u, v) => {
    const a = outside ? PI - 0.2 - u * (PI - 0.4) : 0.2 + u * (PI - 0.4);
    return [radius * Math.cos(a), radius * Math.sin(a), -100 * v];
  });

test('rims go outwards from the face, reveals inwards, and neither tilts it', () => {
  const span = (s: ReturnType<typeof lay>) => [s.bounds.minY, s.bounds.maxY].map(Math.round);
  expect(span(lay([...arch, ...band(1000, false)]))).toEqual([900, 1300]);
  expect(span(lay([...arch, ...band(1300, true)]))).toEqual([1000, 1400]);
  const both = lay([...arch, ...band(1000, false), ...band(1300, true)]);
  expect(span(both)).toEqual([900, 1400]);
  expect(height(both)).toBeCloseTo(500, 0);
});

describe('rounds in an outline', () => {
  const ringOf = (triangles: number[]) => {
    const mesh = looseMesh(triangles);
    return findRing(mesh, facesOf(mesh), [0, 0, 1]);
  };

  test('an arch: centre, both radii, how much of the outline runs round', () => {
    const found = ringOf(arch.map((v, i) => v + [4000, 900, -70][i % 3]))!;
    expect(found.centre.map(Math.round)).toEqual([4000, 900, -70]);
    expect([found.inner, found.outer].map(Math.round)).toEqual([1000, 1300]);
    expect(found.agrees).toBeCloseTo(1, 2);
    const round = (PI - 0.4) * 2300;
    expect(found.round).toBeCloseTo(round / (round + 600), 1);
  });

  test('a rectangle has none, nor has what faces another way', () => {
    const plate = ringOf(plateFace([rectangle(2000, 1000)]));
    expect(plate === null || plate.agrees < 0.5).toBe(true);
    const mesh = looseMesh(arch);
    expect(findRing(mesh, facesOf(mesh), [1, 0, 0])).toBeNull();
  });
});

test('its fields: each its own; a centre is found, or has all three numbers', () => {
  const context = { closed: true, own: [] } as never;
  const own: FanMapping = { ...fan.first, centre: [10, 20, 30], referenceMm: 400, seamDeg: 90 };
  const fields = fan.fields.filter((f) => f.label !== 'True length at' && !f.label.startsWith('Centre'));
  fieldsKeepTheirOwn(fields, own, context, () => true);
  const [at] = fan.fields.filter((f) => f.label === 'True length at');
  expect(at.get(own, context)).toBe('own');
  expect(at.set(own, 'own' as never, context)).toBe(own);
  expect(at.set(own, 'outer' as never, context)).toMatchObject({ reference: 'outer', referenceMm: null });
  expect(at.get(fan.first, context)).toBe('inner');
  const options = (s: FanMapping) => (at.kind === 'choice' ? at.optionsFor!(s, context).map(([v]) => v) : []);
  expect(options(own)).toEqual(['inner', 'middle', 'outer', 'own']);
  expect(options(fan.first)).toEqual(['inner', 'middle', 'outer']);
  const centres = fan.fields.filter((f) => f.label.startsWith('Centre'));
  expect(centres.map((f) => f.get(own, context))).toEqual([10, 20, 30]);
  expect(centres.map((f) => f.get(fan.first, context))).toEqual([null, null, null]);
  expect(centres[1].set(fan.first, 70 as never, context).centre).toEqual([0, 70, 0]);
  expect(centres[2].set(own, 70 as never, context).centre).toEqual([10, 20, 70]);
  expect(centres[0].set(own, null as never, context).centre).toBeNull();
  expect(own.centre).toEqual([10, 20, 30]);
});
