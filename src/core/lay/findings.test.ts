import type { Material } from '../material/schema';
import { laidSpec, oak, rectangle, wallMesh } from '../testing/surfaces';
import type { VariationSpec } from '../variation/schema';
import { FIRST_MAPPING } from '../mapping/schema';
import { lay } from './lay';

const mesh = wallMesh([rectangle(4000, 2000)]);
function found(widthMm: number, heightMm: number, material: Partial<Material>, variation: Partial<VariationSpec> = {}) {
  const spec = laidSpec({
    layout: { kind: 'grid', widthMm, heightMm, shift: 0, diagonal: false, across: null, up: null },
    joint: 2,
    variation,
  });
  const laid = lay(
    {
      id: 'wall',
      patches: [{ faces: [0, 2] }],
      mapping: FIRST_MAPPING.flat,
      cuts: [],
      origin: [0, 0, 0],
      spec,
      colour: null,
    },
    [mesh],
    { oak: oak(material) },
  );
  return { codes: laid.findings.map((f) => f.code), laid };
}
const large = { widthMm: 4000, heightMm: 3000 };

describe('what should be known of prints', () => {
  test('a picture with room for all says nothing', () => {
    expect(found(200, 200, large).codes).toEqual([]);
  });

  test('a piece longer or wider than what is seamless is told; one as large is not', () => {
    const small = { widthMm: 600, heightMm: 400, seamless: true };
    expect(found(700, 300, small).codes).toContain('pieceLargerThanPicture');
    expect(found(500, 450, small).codes).toContain('pieceLargerThanPicture');
    expect(found(600, 400, small).codes).not.toContain('pieceLargerThanPicture');
  });

  test('what is not seamless is enlarged instead, and that is told', () => {
    const { codes, laid } = found(700, 300, { widthMm: 600, heightMm: 400, seamless: false });
    expect(codes).toContain('printEnlarged');
    expect(codes).not.toContain('pieceLargerThanPicture');
    const { values } = laid.findings.find((f) => f.code === 'printEnlarged')!;
    expect(values).toMatchObject({ lengthMm: 700, widthMm: 300 });
    expect((values as { times: number }).times).toBeCloseTo(700 / 600, 6);
  });

  test('prints are too few when neighbours cannot all differ', () => {
    const { codes, laid } = found(390, 290, { widthMm: 800, heightMm: 600, seamless: false });
    const { distinct } = laid.arrangement!.materials[0].prints;
    const needed = laid.arrangement!.layout.mostNeighbours + 1;
    expect(codes.includes('printsTooFew')).toBe(distinct < needed);
    expect(distinct).toBeLessThan(needed);
    // exactly as many as are needed will do
    for (let height = 600; height < 1500; height += 10) {
      const more = found(390, 290, { widthMm: 800, heightMm: height, seamless: false });
      const { prints } = more.laid.arrangement!.materials[0];
      expect(more.codes.includes('printsTooFew')).toBe(prints.distinct < needed);
    }
  });

  test('without variation nothing is said of prints', () => {
    expect(found(700, 300, { widthMm: 600, heightMm: 400, seamless: true }, { on: false }).codes).toEqual([]);
  });
});
