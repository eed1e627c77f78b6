import { type Static, Type } from '@sinclair/typebox';
import { renderToString } from 'react-dom/server';
import { exportLaid } from '@/core/dress/exportLaid';
import { EXPORT_FORMATS, type ExportFormat, exportFormatOf, writeScene } from '@/core/formats/exportFormats';
import type { ExportScene } from '@/core/formats/exportScene';
import { lay } from '@/core/lay/lay';
import { defaultJoint } from '@/core/layout/joint';
import { noMix } from '@/core/layout/mix';
import { LAYOUTS } from '@/core/layout/registry';
import { openRows } from '@/core/layout/rows';
import { RECTANGLE } from '@/core/layout/modules';
import type { Layout } from '@/core/layout/types';
import { frameFacing, placeFace } from '@/core/mapping/flat';
import { MAPPINGS } from '@/core/mapping/registry';
import type { Mapping } from '@/core/mapping/types';
import { areaOfTriangles } from '@/core/mesh/area';
import { lineText, specLine } from '@/core/specification/line';
import type { Spec } from '@/core/specification/schema';
import { laidSpec, oak, rectangle, wallMesh } from '@/core/testing/surfaces';
import { describeApi } from '@/server/http/openapi';
import { FieldViews } from '../shared/FieldView';
import { MIXED } from '../shared/ValueField';

/** A layout, a mapping and a format that stand in this file alone: everything that is known of them is their own. */

const LadderSpec = Type.Object({ kind: Type.Literal('stepladder'), rungMm: Type.Number(), tight: Type.Boolean() });
const ladder: Layout<Static<typeof LadderSpec>> = {
  kind: 'stepladder',
  label: 'Stepladder',
  trade: 'planks',
  schema: LadderSpec,
  cells: 'laid',
  preset: { spec: { kind: 'stepladder', rungMm: 120, tight: false }, joint: defaultJoint(2) },
  formats: [],
  roles: ['tile'],
  size: null,
  fields: [
    { kind: 'length', label: 'Rung', min: 10, get: (s) => s.rungMm, set: (s, rungMm) => ({ ...s, rungMm }) },
    { kind: 'toggle', label: 'Close together', get: (s) => s.tight, set: (s, tight) => ({ ...s, tight }) },
  ],
  describe: (s, size) => `a stepladder of rungs ${size(s.rungMm)}`,
  open: ({ rungMm }, { acrossMm }) =>
    openRows({
      pitch: [1000, rungMm + acrossMm],
      first: [500, rungMm / 2],
      offset: () => 0,
      wraps: () => 0,
      turn: [1, 0],
      halfLength: 500,
      halfWidth: (rungMm + acrossMm) / 2,
      module: RECTANGLE,
      inset: [0, acrossMm / 2],
      largest: [1000, rungMm],
      role: 'tile',
    }),
};

const TiltedSpec = Type.Object({ kind: Type.Literal('tilted'), deg: Type.Number() });
const tilted: Mapping<Static<typeof TiltedSpec>> = {
  kind: 'tilted',
  label: 'Tilted',
  schema: TiltedSpec,
  first: { kind: 'tilted', deg: 0 },
  fields: [{ kind: 'freeAngle', label: 'Tilted by', get: (s) => s.deg, set: (s, deg) => ({ ...s, deg: deg ?? 0 }) }],
  describe: ({ deg }) => `tilted by ${deg}°`,
  drawing: [{ as: 'face', d: 'M0 0h10v10z' }],
  lay(mesh, faces) {
    const frame = frameFacing([0, 0, 1]);
    const corners = new Float64Array(faces.length * 6);
    faces.forEach((face, i) => placeFace(mesh, face, frame, corners, i * 6));
    return { corners, chartOf: new Uint32Array(faces.length), frames: [frame], groupOf: [0], breaks: [] };
  },
};

const listing: ExportFormat = {
  kind: 'listing',
  label: 'Listing',
  hint: 'Names of surfaces, a line each.',
  ending: '.txt',
  mime: 'text/plain',
  checked: null,
  async open(_head, stem, to) {
    const file = await to.create(`${stem}.txt`);
    return {
      put: (part) => file.write(new TextEncoder().encode(part.surfaces.map((s) => `${s.name}\n`).join(''))),
      finish: () => Promise.resolve(),
    };
  },
};

const layouts = [...LAYOUTS, ladder];
const mappings = [...MAPPINGS, tilted];
const formats = [...EXPORT_FORMATS, listing];
/** As it would be stored; the application's own types know nothing of it. */
const spec = {
  ...laidSpec({ layout: { kind: 'whole' } }),
  mapping: { kind: 'tilted', deg: 12 },
  pieces: { layout: { kind: 'stepladder', rungMm: 150, tight: true }, joint: defaultJoint(4), mix: noMix() },
} as unknown as Spec;

describe('a definition of one’s own', () => {
  test('stands in the card, each field by its kind', () => {
    const specs = [
      { kind: 'stepladder' as const, rungMm: 150, tight: true },
      { kind: 'stepladder' as const, rungMm: 90, tight: true },
    ];
    const html = renderToString(
      <FieldViews fields={ladder.fields} specs={specs} context={undefined} unit="mm" onEach={() => undefined} />,
    );
    expect(html).toContain('Rung');
    expect(html).toContain('placeholder="mixed"');
    expect(html).toMatch(/type="checkbox"[^>]*checked/);
    const angle = renderToString(
      <FieldViews
        fields={tilted.fields}
        specs={[{ kind: 'tilted' as const, deg: 12 }]}
        context={{ closed: false, own: [] }}
        unit="mm"
        onEach={() => undefined}
      />,
    );
    expect(angle).toContain('value="12°"');
  });

  test('is read in the spec line', () => {
    const said = lineText(specLine('The wall', spec, oak(), 'mm', { layouts, mappings }));
    expect(said).toContain('a stepladder of rungs 150 mm, joints 4 mm');
    expect(said).toContain('mapped tilted by 12°');
    expect(() => specLine('The wall', spec, oak(), 'mm')).toThrow(/no layout “stepladder”/);
  });

  test('is a part of the API’s schema', () => {
    const { schemas } = describeApi({ layouts, mappings, formats }).components as { schemas: Record<string, object> };
    expect(JSON.stringify(schemas.Layout)).toContain('"ladder"');
    expect(JSON.stringify(schemas.Mapping)).toContain('"tilted"');
    expect(schemas.ExportFormat).toEqual({ enum: ['glb', 'gltf-zip', 'obj-zip', 'listing'] });
    expect(JSON.stringify(describeApi().components)).not.toContain('stepladder');
  });

  test('is laid, counted and handed over', async () => {
    const mesh = wallMesh([rectangle(3000, 1540)]);
    const region = {
      id: 'wall',
      patches: [{ faces: [0, 2] }],
      mapping: spec.mapping,
      cuts: [],
      origin: [0, 0, 0] as [number, number, number],
      spec,
      colour: null,
    };
    const laid = lay(region, [mesh], { oak: oak() }, { layouts, mappings });
    expect(laid.pieces).toHaveLength(30);
    const made = exportLaid(laid);
    expect(made.reduce((sum, { dressed }) => sum + areaOfTriangles(dressed), 0)).toBeCloseTo(3000 * 1540, 0);
    const surfaces = made.map(({ what, dressed }) => ({ name: what, dressed, material: '#808080' }));
    const scene: ExportScene = {
      name: 'Test',
      materials: [],
      parts: [{ name: 'Wall', path: [], origin: [0, 0, 0], pivot: [0, 0, 0], surfaces }],
    };
    const files = await writeScene(exportFormatOf('listing', formats), scene, 'test');
    expect(new TextDecoder().decode(files['test.txt'])).toBe('pieces\njoints\n');
    expect(() => exportFormatOf('listing')).toThrow(/no format “listing”/);
  });
});

test('mixed is a value of its own, and not a number', () => {
  expect(typeof MIXED).toBe('symbol');
});
