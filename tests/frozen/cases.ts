import { type LayoutSpec } from '@/core/layout/schema';
import { type MixSpec, noMix } from '@/core/layout/mix';
import { defaultJoint, type JointSpec } from '@/core/layout/joint';
import type { Material } from '@/core/material/schema';
import type { PartMesh } from '@/core/mesh/types';
import { emptyProject, type Part, type Project, type Surface } from '@/core/project/schema';
import { type Spec } from '@/core/specification/schema';
import { FIRST_MAPPING, type MappingKind, type MappingSpec } from '@/core/mapping/schema';
import { plainVariation, type VariationSpec } from '@/core/variation/schema';
import type { ZoneShape } from '@/core/zones/schema';
import { archFace, frustum, looseMesh, moulding, patch, sphereBand } from '@/core/testing/shapes';
import { oak, wallMesh } from '@/core/testing/surfaces';

/**
 * What is laid, frozen: every layout × mapping × way at an arris × zone on small surfaces, with pins, deals, mixes,
 * leaves, bodies of the mesh and rings among them. Restructuring changes none of it.
 */
export interface FrozenCase {
  name: string;
  project: Project;
  mesh: PartMesh;
  /** Surfaces and zones in the order in which they are frozen. */
  surfaces: string[];
}

const one = (mm: number) => ({ kind: 'one' as const, mm });
const range = (fromMm: number, toMm: number) => ({ kind: 'range' as const, fromMm, toMm });
const list = (...mm: number[]) => ({ kind: 'list' as const, items: mm.map((m, i) => ({ mm: m, share: i + 1 })) });
const rule = (carryOffcuts: boolean) =>
  ({ kind: 'random', leastApartMm: 120, leastEndMm: 150, carryOffcuts, layoutNumber: 3 }) as const;

/** Every layout, with its kinds of staggers and counts. */
export const FROZEN_LAYOUTS: Record<string, LayoutSpec> = {
  whole: { kind: 'whole' },
  planksThirds: { kind: 'planks', lengths: one(640), widths: one(170), stagger: { kind: 'share', share: 1 / 3 } },
  planksStep: { kind: 'planks', lengths: one(700), widths: list(120, 190), stagger: { kind: 'step', stepMm: 230 } },
  planksCarried: { kind: 'planks', lengths: range(400, 900), widths: one(180), stagger: rule(true) },
  planksFree: { kind: 'planks', lengths: range(400, 900), widths: one(160), stagger: rule(false) },
  planksLists: { kind: 'planks', lengths: list(420, 560, 700), widths: range(140, 200), stagger: rule(true) },
  stretcher: { kind: 'stretcher', lengthMm: 300, heightMm: 120, lap: 0.5, raking: false },
  raking: { kind: 'stretcher', lengthMm: 330, heightMm: 130, lap: 0.25, raking: true },
  flemish: { kind: 'flemish', stretcherMm: 215, headerMm: 102.5, heightMm: 120, closers: true },
  herringbone: { kind: 'herringbone', lengthMm: 420, widthMm: 140, strands: 1 },
  herringboneDouble: { kind: 'herringbone', lengthMm: 500, widthMm: 90, strands: 2 },
  grid: { kind: 'grid', widthMm: 260, heightMm: 180, shift: 1 / 3, diagonal: false, across: null, up: null },
  gridDiagonal: { kind: 'grid', widthMm: 240, heightMm: 240, shift: 0, diagonal: true, across: null, up: null },
  gridCounted: { kind: 'grid', widthMm: 240, heightMm: 240, shift: 0, diagonal: false, across: 5, up: 4 },
  hexagon: { kind: 'hexagon', acrossFlatsMm: 230, pointUp: true },
  hexagonFlat: { kind: 'hexagon', acrossFlatsMm: 210, pointUp: false },
  asModelled: { kind: 'asModelled' },
};

const withCoordinates = (mesh: PartMesh, size: number): PartMesh => ({
  ...mesh,
  uvs: [
    Float32Array.from(
      { length: (mesh.positions.length / 3) * 2 },
      (_, i) => mesh.positions[(i >> 1) * 3 + (i & 1)] / size,
    ),
  ],
});

const wall = () =>
  wallMesh([
    [
      [0, 0],
      [1400, 0],
      [1400, 520],
      [1010, 520],
      [1010, 860],
      [0, 860],
    ],
    [
      [300, 250],
      [300, 560],
      [620, 560],
      [620, 250],
    ],
  ]);

/** Four sides of a pier, the strips between its faces and a short lid above the first. */
const pier = () => {
  const plan: [number, number][] = [
    [0, 0],
    [560, 0],
    [560, 340],
    [0, 340],
  ];
  return looseMesh(
    plan.flatMap(([x, z], i) => {
      const [u, w] = plan[(i + 1) % 4];
      return patch(1, 2, (s, t) => [x + (u - x) * (1 - s), t * 700, z + (w - z) * (1 - s)]);
    }),
  );
};

/** For every mapping a small part that suits it. */
export const FROZEN_SHAPES: Record<MappingKind, { mesh: () => PartMesh; mapping: MappingSpec }> = {
  flat: { mesh: wall, mapping: FIRST_MAPPING.flat },
  box: { mesh: pier, mapping: FIRST_MAPPING.box },
  cylinder: { mesh: () => looseMesh(frustum(180, 180, 620, 16)), mapping: FIRST_MAPPING.cylinder },
  sphere: { mesh: () => looseMesh(sphereBand(230, -0.9, 1.1, 12, 5)), mapping: FIRST_MAPPING.sphere },
  fan: { mesh: () => looseMesh(archFace(420, 780, 0.9, 2.2, 4)), mapping: FIRST_MAPPING.fan },
  unroll: {
    mesh: () =>
      looseMesh(
        moulding(
          [
            [0, 0],
            [0, 260],
            [110, 400],
          ],
          [
            [0, 0],
            [700, 0],
            [700, 500],
          ],
        ),
      ),
    mapping: FIRST_MAPPING.unroll,
  },
  develop: { mesh: pier, mapping: FIRST_MAPPING.develop },
  own: {
    mesh: () => withCoordinates(wall(), 1000),
    mapping: { kind: 'own', set: 0, unit: { widthMm: 1000, heightMm: 1000 } },
  },
};

export const FROZEN_ARRISES = ['fold', 'break', 'return'] as const;

const ZONES: Record<string, ZoneShape | null> = {
  none: null,
  rectangle: { kind: 'rectangle', xMm: 130, yMm: 90, widthMm: 420, heightMm: 330 },
  circle: { kind: 'circle', xMm: 380, yMm: 300, radiusMm: 190 },
  border: { kind: 'border', widthMm: 110, courses: null, edges: null, corners: 'butted' },
};

const leaves = { columns: 2, rows: 6, insetMm: 2 };
/** Materials with leaves, with grain along y, without a seamless edge. */
const MATERIALS: Material[] = [
  oak(),
  oak({ id: 'ash', colour: '#b9a888', leaves }),
  oak({ id: 'clay', colour: '#a0522d', widthMm: 860, heightMm: 780, grain: 'none' }),
  oak({ id: 'lime', colour: '#d8d4cb', widthMm: 1800, heightMm: 900, grain: 'y', seamless: false }),
];

const mixes: MixSpec[] = [
  noMix(),
  { by: 'share', entries: [{ material: 'clay', on: true, share: 0.3, every: 2, first: 0, role: 'tile' }] },
  { by: 'course', entries: [{ material: 'lime', on: true, share: 0.3, every: 2, first: 1, role: 'tile' }] },
  { by: 'role', entries: [{ material: 'clay', on: true, share: 0.3, every: 2, first: 0, role: 'header' }] },
];
const variations: Partial<VariationSpec>[] = [
  { turnStepDeg: 180, tiltDeg: 0.8 },
  {
    pins: [
      { course: 1, index: 1, print: 2, seed: 12345 },
      { course: 2, index: 0, print: 1, seed: 777 },
    ],
    flipAlong: true,
  },
  { deals: [{ course: 0, index: 1, deal: 2 }], sizePercent: { from: 90, to: 115 }, flipAcross: true },
  { slideAlong: { fromMm: 0, toMm: 900, stepMm: 50 }, maps: ['baseColour'] },
  { on: false },
];
const starts: Pick<Spec, 'start' | 'direction'>[] = [
  { start: { datum: 'corner', xMm: 0, yMm: 0 }, direction: { turnDeg: 0, mirrorX: false, mirrorY: false } },
  { start: { datum: 'centre', xMm: 37, yMm: -21 }, direction: { turnDeg: 0, mirrorX: true, mirrorY: false } },
  { start: { datum: 'world', xMm: 12.5, yMm: 40 }, direction: { turnDeg: 180, mirrorX: false, mirrorY: true } },
];
const slanted: Pick<Spec, 'start' | 'direction'> = {
  start: { datum: 'corner', xMm: 55, yMm: 20 },
  direction: { turnDeg: 33, mirrorX: false, mirrorY: false },
};
const standing: Pick<Spec, 'start' | 'direction'> = {
  start: { datum: 'corner', xMm: 0, yMm: 0 },
  direction: { turnDeg: 90, mirrorX: false, mirrorY: false },
};

const surface = (id: string, mesh: PartMesh, spec: Spec | null, rest: Partial<Surface> = {}): Surface => ({
  id,
  part: 'part',
  name: id,
  faces: [0, mesh.indices.length / 3],
  slot: 0,
  areaMm2: 1,
  normal: [0, 0, 1],
  hidden: false,
  leftBare: false,
  spec,
  ...rest,
});

const part: Part = {
  id: 'part',
  model: 'model',
  name: 'Part',
  path: [],
  mesh: 0,
  origin: [0, 0, 0],
  min: [0, 0, 0],
  max: [1400, 900, 500],
  locked: false,
};

function projectOf(surfaces: Surface[]): Project {
  const project = emptyProject('frozen', 'Frozen');
  const byId = <T extends { id: string }>(items: T[]) => Object.fromEntries(items.map((i) => [i.id, i]));
  return { ...project, parts: byId([part]), surfaces: byId(surfaces), materials: byId(MATERIALS) };
}

interface Choice {
  layout: string;
  mapping: MappingKind;
  arris: (typeof FROZEN_ARRISES)[number];
  zone: string;
}

/** Turns through mixes, variations, starts and rings so that each meets every layout and mapping somewhere. */
function specOf({ layout, mapping, arris }: Choice, n: number): Spec {
  const arrangement = FROZEN_LAYOUTS[layout];
  const joint: JointSpec = { ...defaultJoint(n % 4 === 0 ? 0 : 2 + (n % 5)), material: n % 7 === 3 ? 'lime' : null };
  const own = FROZEN_SHAPES[mapping].mapping;
  const rings = 'around' in own && n % 3 === 1 ? { ...own, around: 5 } : own;
  const placed = arris === 'fold' ? [...starts, slanted, standing][n % 5] : starts[n % 3];
  return {
    material: ['oak', 'ash', 'lime'][n % 3],
    mapping: rings,
    repeat: { own: n % 4 === 2 ? { widthMm: 900, heightMm: 500 } : null, locked: true },
    ...placed,
    finish: {},
    pieces: { layout: arrangement, joint, mix: mixes[n % mixes.length], arris },
    variation: { ...plainVariation(), shuffle: 1 + (n % 9), ...variations[n % variations.length] },
  };
}

export function frozenCases(): FrozenCase[] {
  const out: FrozenCase[] = [];
  let n = 0;
  const mappings = Object.keys(FROZEN_SHAPES) as MappingKind[];
  // what came later comes last: what was frozen before keeps its turns
  const first = mappings.filter((m) => m !== 'develop');
  const each = (of: MappingKind[]) =>
    Object.keys(FROZEN_LAYOUTS).flatMap((layout) => of.map((m) => ({ layout, mapping: m })));
  for (const { layout, mapping } of [...each(first), ...each(['develop'])]) {
    for (const arris of FROZEN_ARRISES) {
      for (const zone of Object.keys(ZONES)) {
        const choice = { layout, mapping, arris, zone };
        const mesh = FROZEN_SHAPES[mapping].mesh();
        const base = surface('base', mesh, specOf(choice, n));
        const shape = ZONES[zone];
        const inner =
          shape && surface('zone', mesh, specOf(choice, n + 1), { faces: [], zone: { of: 'base', rank: 0, shape } });
        const surfaces = inner ? [base, inner] : [base];
        out.push({
          name: [layout, mapping, arris, zone].join(' '),
          project: projectOf(surfaces),
          mesh,
          surfaces: surfaces.map((s) => s.id),
        });
        n++;
      }
    }
  }
  return out;
}
