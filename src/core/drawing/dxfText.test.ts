import DxfParser from 'dxf-parser';
import fc from 'fast-check';
import { numberOf, readDxfText, textOf } from './dxfText';
import { readDxf } from './readDxf';

type Value = string | number;
const lines = (...list: Value[]) => list.join('\n') + '\n';
const section = (name: string, ...list: Value[]) => lines(0, 'SECTION', 2, name) + lines(...list, 0, 'ENDSEC');
const whole = (...sections: string[]) => sections.join('') + lines(0, 'EOF');
const entities = (...list: Value[]) => whole(section('ENTITIES', ...list));

describe('what other readers loop on or lose', () => {
  test('a count that is not that of the points is not believed', () => {
    const text = entities(0, 'LWPOLYLINE', 8, 'a', 90, 4294967295, 70, 1, 10, 0, 20, 0, 10, 9, 20, 0, 10, 9, 20, 5);
    expect(readDxf(text, 'a.dxf').shapes[0].corners).toHaveLength(6);
  });

  test('a point without its y is named, not waited for', () => {
    const text = entities(0, 'LWPOLYLINE', 8, 'a', 90, 3, 70, 1, 10, 0, 8, 'b', 10, 9, 20, 0, 10, 9, 20, 5);
    expect(() => readDxf(text, 'a.dxf')).toThrow(/LWPOLYLINE .* has a coordinate that is no number/);
  });

  test('the line that is no number of a group is named', () => {
    expect(() => readDxfText(lines(0, 'SECTION', 2, 'ENTITIES', 'brick', 5), 'a.dxf')).toThrow(
      /a\.dxf: .*line 5: a group's number is wanted, not “brick”/,
    );
  });

  test('a file whose end is missing is not taken for a whole one', () => {
    expect(() => readDxfText(section('ENTITIES', 0, 'CIRCLE', 40, 5), 'a.dxf')).toThrow(/ends before its EOF/);
  });

  test('the frame of a fitted curve is no part of it, nor is what lies on a sheet to plot', () => {
    const vertex = (x: number, y: number, flags: number) => [0, 'VERTEX', 8, 'a', 10, x, 20, y, 70, flags];
    const line = [0, 'POLYLINE', 8, 'a', 66, 1, 70, 5, ...vertex(500, 500, 16)];
    const corners = [vertex(0, 0, 8), vertex(10, 0, 8), vertex(10, 10, 8)].flat();
    const plotted = [0, 'CIRCLE', 8, 'a', 67, 1, 10, 0, 20, 0, 40, 5];
    const read = readDxf(entities(...line, ...corners, 0, 'SEQEND', ...plotted), 'a.dxf');
    expect(read.shapes.map((s) => s.corners.length)).toEqual([6]);
    expect(read.remarks.join()).toMatch(/1 × entity of a sheet to plot left out/);
  });
});

/** A drawing as a program would write it, by numbers from 0 to below 1. */
function anyDrawing(random: () => number): string {
  const number = (most: number) => Math.round(random() * most * 1000) / 1000;
  const point = () => [10, number(900), 20, number(900)];
  const makers = [
    () => [0, 'CIRCLE', 5, 'A1', 8, `layer ${Math.floor(random() * 3)}`, ...point(), 30, 0, 40, number(50)],
    () => {
      const n = 3 + Math.floor(random() * 5);
      const points = Array.from({ length: n }, () => [...point(), 42, random() < 0.5 ? 0 : number(1)]).flat();
      return [0, 'LWPOLYLINE', 5, 'B2', 8, 'brick', 90, n, 70, random() < 0.7 ? 1 : 0, 43, 0, ...points];
    },
    () => {
      const vertices = Array.from({ length: 4 }, () => [0, 'VERTEX', 8, 'brick', ...point(), 30, 0]).flat();
      return [0, 'POLYLINE', 8, 'brick', 66, 1, 10, 0, 20, 0, 30, 0, 70, 1, ...vertices, 0, 'SEQEND'];
    },
    () => [
      0,
      'ELLIPSE',
      8,
      'oval',
      ...point(),
      30,
      0,
      11,
      number(40),
      21,
      number(40),
      31,
      0,
      40,
      0.5,
      41,
      0,
      42,
      6.283,
    ],
    () => [0, 'INSERT', 8, '0', 2, 'stone', ...point(), 30, 0, 41, 1 + number(2), 42, 1 + number(2), 50, number(360)],
  ];
  const some = () => Array.from({ length: 6 }, () => makers[Math.floor(random() * makers.length)]()).flat();
  return whole(
    section('HEADER', 9, '$MEASUREMENT', 70, 1, 9, '$INSUNITS', 70, 4),
    section('TABLES', 0, 'TABLE', 2, 'LAYER', 70, 1, 0, 'LAYER', 2, 'oval', 70, 1, 62, 7, 6, 'CONTINUOUS', 0, 'ENDTAB'),
    section(
      'BLOCKS',
      0,
      'BLOCK',
      8,
      '0',
      2,
      'stone',
      70,
      0,
      10,
      5,
      20,
      6,
      30,
      0,
      3,
      'stone',
      1,
      '',
      ...some(),
      0,
      'ENDBLK',
    ),
    section('ENTITIES', ...some()),
  );
}

/** Numbers of an entity, so that two readers can be held against each other. */
interface Told {
  type: string;
  layer?: string;
  vertices?: { x: number; y: number; bulge?: number }[];
  center?: { x: number; y: number };
  radius?: number;
  name?: string;
  xScale?: number;
  rotation?: number;
}

const drawings = fc
  .infiniteStream(fc.double({ min: 0, max: 1, maxExcluded: true, noNaN: true }))
  .map((numbers) => anyDrawing(() => numbers.next().value as number));

test('says what another reader says', () => fc.assert(fc.property(drawings, agrees)));

function agrees(text: string): void {
  const other = new DxfParser().parseSync(text)!;
  const own = readDxfText(text, 'a.dxf');
  expect(own.units).toBe(other.header.$INSUNITS);
  expect(own.layers.get('oval')?.off).toBe(other.tables.layer.layers.oval.frozen);
  const block = own.blocks.get('stone')!;
  for (const [mine, theirs] of [
    [own.entities, other.entities],
    [block.entities, other.blocks.stone.entities],
  ] as const) {
    const standing = mine.filter((r) => r.type !== 'VERTEX' && r.type !== 'SEQEND');
    expect(standing.map((r) => [r.type, textOf(r, 8)])).toEqual(theirs.map((e) => [e.type, e.layer]));
    (theirs as unknown as Told[]).forEach((entity, n) => {
      const record = standing[n];
      if (entity.type === 'CIRCLE') {
        expect(numberOf(record, 40, -1)).toBe(entity.radius);
        expect(numberOf(record, 10, -1)).toBe(entity.center!.x);
      } else if (entity.type === 'INSERT') {
        expect([textOf(record, 2), numberOf(record, 50, 0)]).toEqual([entity.name, entity.rotation]);
        expect(numberOf(record, 41, 1)).toBe(entity.xScale);
      } else if (entity.type === 'LWPOLYLINE') {
        const xs = record.groups.filter(([code]) => code === 10).map(([, value]) => Number(value));
        expect(xs).toEqual(entity.vertices!.map((v) => v.x));
        const bulges = record.groups.filter(([code]) => code === 42).map(([, value]) => Number(value));
        expect(bulges).toEqual(entity.vertices!.map((v) => v.bulge ?? 0));
      }
    });
  }
}
