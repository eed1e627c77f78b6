import type { Command } from '@/core/project/commands';
import type { Material } from '@/core/material/schema';
import type { Level, Light, Project, Surface } from '@/core/project/schema';
import { type LayoutSpec } from '@/core/layout/schema';
import { type MixSpec, noMix } from '@/core/layout/mix';
import { defaultJoint, type JointSpec } from '@/core/layout/joint';
import { defaultSpec, type Spec } from '@/core/specification/schema';
import { FIRST_MAPPING } from '@/core/mapping/schema';
import { plainVariation, type VariationSpec } from '@/core/variation/schema';
import { wearDemo } from './wear';

type Rule = { slot?: string; part?: RegExp; surface?: RegExp; material: string; spec?: (s: Spec) => Spec };

const turned =
  (deg: number) =>
  (s: Spec): Spec => ({ ...s, direction: { ...s.direction, turnDeg: deg } });
const unrolled = (s: Spec): Spec => ({ ...s, mapping: { kind: 'unroll' } });
const boxed = (s: Spec): Spec => ({ ...s, mapping: { kind: 'box', axes: 'surface' } });
/** Round a column or a drum: whole tiles only, exactly so many. */
const round =
  (around: number | null) =>
  (s: Spec): Spec => ({ ...s, mapping: { ...FIRST_MAPPING.cylinder, around } });
/** Voussoirs: bricks on end that taper towards the centre. */
const voussoirs = (around: number | null) =>
  both(
    (s: Spec): Spec => ({ ...s, mapping: { ...FIRST_MAPPING.fan, around } }),
    turned(90),
    inPieces({ kind: 'stretcher', lengthMm: 215, heightMm: 65, lap: 0, raking: false }, MORTAR, { tone: BRICK_TONES }),
  );
/** One picture at its exact size. */
const once =
  (widthMm: number, heightMm: number, fitted = false) =>
  (s: Spec): Spec => ({
    ...s,
    repeat: { own: { widthMm, heightMm }, locked: true, once: { fitted, rest: { kind: 'bare' } } },
  });
const sized =
  (widthMm: number, heightMm: number) =>
  (s: Spec): Spec => ({ ...s, repeat: { own: { widthMm, heightMm }, locked: true } });
/** The layout's start in the middle of the surface. */
const centred = (s: Spec): Spec => ({ ...s, start: { ...s.start, datum: 'centre' } });
/** Courses are counted from one level all through the building. */
const COURSES: Level = { id: 'level-courses', name: 'Brick courses', heightMm: 0 };
const fromLevel = (s: Spec): Spec => ({
  ...s,
  start: { datum: 'level', level: { id: COURSES.id, heightMm: COURSES.heightMm }, xMm: 0, yMm: 0 },
});

/** Lays pieces: a layout, what lies between, and how they differ. */
const inPieces =
  (layout: LayoutSpec, joint: Partial<JointSpec>, variation: Partial<VariationSpec> = {}, mix: MixSpec = noMix()) =>
  (s: Spec): Spec => ({
    ...s,
    pieces: { layout, joint: { ...defaultJoint(), ...joint }, mix },
    variation: { ...plainVariation(), ...variation },
  });
const both =
  (...steps: ((s: Spec) => Spec)[]) =>
  (s: Spec): Spec =>
    steps.reduce((spec, step) => step(spec), s);

const MORTAR = { alongMm: 10, acrossMm: 10, colour: '#b3aa99', recessMm: 4, roundingMm: 2 };
const GROUT = { alongMm: 3, acrossMm: 3, colour: '#cfc9bb', recessMm: 1, roundingMm: 1.5 };
const SEAM = { alongMm: 1.5, acrossMm: 1.5, colour: '#2a2018', recessMm: 0.8, roundingMm: 0.8 };

const hallBoards: LayoutSpec = {
  kind: 'planks',
  lengths: { kind: 'range', fromMm: 800, toMm: 1400 },
  widths: { kind: 'one', mm: 190 },
  stagger: { kind: 'random', leastApartMm: 250, leastEndMm: 300, carryOffcuts: true, layoutNumber: 4 },
};
const liningBoards: LayoutSpec = {
  kind: 'planks',
  lengths: { kind: 'one', mm: 1100 },
  widths: { kind: 'one', mm: 98 },
  stagger: { kind: 'share', share: 0 },
};
const glazed = (shift = 0): LayoutSpec => ({
  kind: 'grid',
  widthMm: 147,
  heightMm: 147,
  shift,
  diagonal: false,
  across: null,
  up: null,
});
const bricks: LayoutSpec = { kind: 'flemish', stretcherMm: 215, headerMm: 102.5, heightMm: 65, closers: true };
const stretchers: LayoutSpec = { kind: 'stretcher', lengthMm: 215, heightMm: 65, lap: 0.5, raking: false };
const BRICK_TONES = { lightness: { from: -14, to: 8 }, warmth: { from: -4, to: 5 }, saturation: { from: -8, to: 6 } };
const GLAZED_TONES = {
  tiltDeg: 0.7,
  turnStepDeg: 90,
  tone: { lightness: { from: -10, to: 8 }, warmth: { from: -3, to: 3 }, saturation: { from: -6, to: 6 } },
};
const tiled = inPieces(glazed(), GROUT, GLAZED_TONES);

/** An afternoon in late summer, the tide half in. */
const LIGHT: Light = { bearingDeg: 225, altitudeDeg: 34, strength: 1, outside: 'water', outsideMm: -1350 };

/** What a practitioner would lay, slot by slot; later rules win. */
const RULES: Rule[] = [
  { slot: 'floor boards', material: 'smoked-oak', spec: inPieces(hallBoards, SEAM, { turnStepDeg: 180, shuffle: 7 }) },
  {
    part: /^Watch room floor$/,
    material: 'tallow-walnut',
    spec: both(
      turned(45),
      inPieces(
        { kind: 'herringbone', lengthMm: 490, widthMm: 70, strands: 1 },
        { ...SEAM, alongMm: 1, acrossMm: 1 },
        { turnStepDeg: 180 },
      ),
    ),
  },
  {
    slot: 'lobby tile',
    material: 'ferry-terrazzo',
    spec: both(
      centred,
      inPieces(
        { kind: 'octagon', acrossMm: 200, insertMm: 80 },
        GROUT,
        { tone: { lightness: { from: -6, to: 4 }, warmth: { from: -2, to: 2 }, saturation: { from: -4, to: 4 } } },
        {
          by: 'role',
          entries: [{ material: 'harbour-slate', on: true, share: 0, every: 1, first: 0, role: 'insert' }],
        },
      ),
    ),
  },
  { slot: 'mat', material: 'wool-cloth' },
  { slot: 'plaster', material: 'lime-plaster' },
  {
    slot: 'brick',
    material: 'facing-brick',
    spec: both(fromLevel, inPieces(stretchers, MORTAR, { tone: BRICK_TONES })),
  },
  {
    part: /^Long wall$/,
    slot: 'brick',
    material: 'facing-brick',
    spec: both(fromLevel, inPieces(bricks, MORTAR, { tone: BRICK_TONES })),
  },
  // towards the water
  {
    part: /^Long wall$/,
    slot: 'brick',
    surface: /north/i,
    material: 'facing-brick',
    spec: both(fromLevel, inPieces({ ...bricks, kind: 'englishCross' } as LayoutSpec, MORTAR, { tone: BRICK_TONES })),
  },
  {
    slot: 'brick ring',
    material: 'facing-brick',
    spec: both(unrolled, inPieces(stretchers, MORTAR, { tone: BRICK_TONES })),
  },
  { part: /^Round window ring/, slot: 'brick ring', surface: /south/i, material: 'facing-brick', spec: voussoirs(38) },
  { part: /^Round window ring/, slot: 'brick ring', surface: /north/i, material: 'facing-brick', spec: voussoirs(38) },
  {
    part: /^Boat door arch/,
    slot: 'brick ring',
    surface: /south|north/i,
    material: 'facing-brick',
    spec: voussoirs(null),
  },
  { slot: 'painted', material: 'painted-board' },
  {
    part: /^Lining$/,
    slot: 'painted',
    material: 'painted-board',
    spec: both(
      turned(90),
      inPieces(liningBoards, { alongMm: 0, acrossMm: 2, colour: '#56695f', recessMm: 1, roundingMm: 2 }),
    ),
  },
  { slot: 'tile', material: 'glazed-tile', spec: both(unrolled, tiled) },
  // nine tiles of 157 would be too wide, ten of 141 suit a column of 460
  { part: /^Column/, slot: 'tile', material: 'glazed-tile', spec: both(round(10), tiled) },
  {
    part: /^Tea counter$/,
    slot: 'tile',
    material: 'glazed-tile',
    spec: both(unrolled, inPieces({ kind: 'scales', acrossMm: 120 }, GROUT, GLAZED_TONES)),
  },
  { slot: 'stone', material: 'sallow-stone', spec: boxed },
  {
    part: /^Quay$/,
    material: 'sallow-stone',
    spec: both(
      boxed,
      inPieces(
        { kind: 'stretcher', lengthMm: 890, heightMm: 300, lap: 0.5, raking: false },
        { ...MORTAR, alongMm: 8, acrossMm: 8, roundingMm: 6 },
        { tone: BRICK_TONES },
      ),
    ),
  },
  {
    slot: 'slate',
    material: 'harbour-slate',
    spec: inPieces(
      {
        kind: 'coursed',
        lengths: { kind: 'range', fromMm: 500, toMm: 1100 },
        heights: { kind: 'list', items: [220, 300, 380].map((mm) => ({ mm, share: 1 })) },
        leastApartMm: 120,
        leastEndMm: 200,
        layoutNumber: 2,
      },
      { ...GROUT, alongMm: 6, acrossMm: 6, colour: '#6f7270' },
      { tone: { lightness: { from: -10, to: 6 }, warmth: { from: -2, to: 3 }, saturation: { from: -6, to: 6 } } },
    ),
  },
  { slot: 'door boards', material: 'painted-board', spec: sized(1400, 1400) },
  { slot: 'metal', material: 'brushed-metal' },
  { slot: 'wood', material: 'tallow-walnut', spec: boxed },
  {
    part: /^Bollard base$/,
    slot: 'lobby tile',
    material: 'ferry-terrazzo',
    spec: inPieces(
      { kind: 'hexagon', acrossFlatsMm: 150, pointUp: true },
      { ...GROUT, acrossMm: 4 },
      { tone: BRICK_TONES },
    ),
  },
  { slot: 'webbing', material: 'jute-webbing' },
  { slot: 'cloth', material: 'wool-cloth', spec: boxed },
  { slot: 'lamp', material: 'lamp-glass' },
  { slot: 'roof', material: 'harbour-slate', spec: sized(1800, 1800) },
  { slot: 'lamp', material: 'lamp-glass', spec: (s) => ({ ...s, mapping: FIRST_MAPPING.sphere }) },
  { slot: 'printed band', material: 'rope-band', spec: both(round(2), sized(480, 480)) },
  { slot: 'notice', material: 'tide-table', spec: once(640, 840, true) },
];

/** Commands that dress the freshly imported demo, one per material, as an artist would work. */
export function dressDemo(project: Project, materials: Material[]): Command[] {
  const byId = new Map(materials.map((m) => [m.id, m]));
  const slots = Object.values(project.models)[0].slots.map((s) => s.name);
  const groups = new Map<string, Record<string, Spec>>();
  for (const surface of Object.values(project.surfaces)) {
    const rule = RULES.filter((r) => matches(r, surface, project, slots)).at(-1);
    if (!rule || !byId.has(rule.material)) continue;
    const spec = (rule.spec ?? ((s: Spec) => s))(defaultSpec(rule.material));
    const group = groups.get(rule.material) ?? {};
    group[surface.id] = spec;
    groups.set(rule.material, group);
  }
  const lay: Command[] = [...groups].map(([id, specs]) => {
    const mixed = Object.values(specs).flatMap((s) => s.pieces?.mix.entries.map((e) => e.material) ?? []);
    const materials = [...new Set([id, ...mixed])].map((m) => byId.get(m)!);
    return { kind: 'setSpecs', specs, materials };
  });
  const view = (
    id: string,
    name: string,
    eye: [number, number, number],
    target: [number, number, number],
  ): Command => ({
    kind: 'saveView',
    view: { id, name, eye, target },
  });
  const bare = Object.values(project.surfaces).filter(
    (s) =>
      project.parts[s.part].name === 'Hall slab' ||
      (/^(Ceiling|Underside)$/.test(s.name) && /floor|stage|base/i.test(project.parts[s.part].name)),
  );
  return [
    { kind: 'setLevel', level: COURSES },
    { kind: 'setProject', light: LIGHT },
    ...lay,
    ...watchRoomBorder(project),
    ...watchRoomMedallion(project),
    ...wearDemo(project, Object.assign({}, ...groups.values()) as Record<string, Spec>, materials),
    { kind: 'setSurfaces', ids: bare.map((s) => s.id), leftBare: true },
    view('view-hall', 'Hall from the lobby’s door', [9.3e3, 1.6e3, -0.6e3], [3.5e3, 1.15e3, -5.2e3]),
    view('view-window', 'Round window', [3.2e3, 1.65e3, -4.6e3], [3.4e3, 1.6e3, -7.2e3]),
    view('view-watch', 'Watch room', [5.3e3, 5.3e3, -1.5e3], [2.6e3, 3.7e3, -3.6e3]),
    view('view-landing', 'Landing stage', [19.5e3, 1.2e3, 4.5e3], [12.4e3, 0.9e3, -4e3]),
  ];
}

function matches(rule: Rule, surface: Surface, project: Project, slots: string[]): boolean {
  if (rule.slot && slots[surface.slot] !== rule.slot) return false;
  if (rule.part && !rule.part.test(project.parts[surface.part].name)) return false;
  return !rule.surface || rule.surface.test(surface.name);
}

/** Rings of walnut in the middle of the watch room. */
function watchRoomMedallion(project: Project): Command[] {
  const floor = watchRoomFloor(project);
  if (!floor) return [];
  const spec = both(
    centred,
    inPieces(
      { kind: 'rings', lengthMm: 190, widthMm: 95, hubMm: 240, rays: false },
      { ...SEAM, alongMm: 1, acrossMm: 1 },
      {
        turnStepDeg: 180,
        shuffle: 5,
        tone: { lightness: { from: -18, to: 6 }, warmth: { from: 0, to: 4 }, saturation: { from: -4, to: 4 } },
      },
    ),
  )(defaultSpec('tallow-walnut'));
  const radiusMm = 620;
  return [
    {
      kind: 'addZone',
      zone: {
        ...floor,
        id: 'zone-watch-medallion',
        name: 'Medallion',
        faces: [],
        areaMm2: Math.PI * radiusMm ** 2,
        spec,
        zone: { of: floor.id, rank: 1, shape: { kind: 'circle', xMm: 2700, yMm: 2100, radiusMm } },
      },
    },
  ];
}

const watchRoomFloor = (project: Project): Surface | undefined =>
  Object.values(project.surfaces).find((s) => project.parts[s.part].name === 'Watch room floor' && s.normal[1] > 0.9);

/** Two rows of straight staves round the herringbone of the watch room. */
function watchRoomBorder(project: Project): Command[] {
  const floor = watchRoomFloor(project);
  if (!floor) return [];
  const staves: LayoutSpec = {
    kind: 'planks',
    lengths: { kind: 'one', mm: 900 },
    widths: { kind: 'one', mm: 70 },
    stagger: { kind: 'share', share: 0.5 },
  };
  const spec = inPieces(
    staves,
    { ...SEAM, alongMm: 1, acrossMm: 1 },
    {
      turnStepDeg: 180,
      shuffle: 3,
      tone: { lightness: { from: -12, to: -2 }, warmth: { from: 0, to: 4 }, saturation: { from: -4, to: 4 } },
    },
  )(defaultSpec('tallow-walnut'));
  const shape = { kind: 'border', widthMm: 142, courses: 2, edges: null, corners: 'butted' } as const;
  const width = 142;
  const areaMm2 = 2 * (5400 + 4200) * width - 4 * width * width;
  return [
    {
      kind: 'addZone',
      zone: {
        ...floor,
        id: 'zone-watch-border',
        name: 'Border',
        faces: [],
        areaMm2,
        spec,
        zone: { of: floor.id, rank: 0, shape },
      },
    },
  ];
}
