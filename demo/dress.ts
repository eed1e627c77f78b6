import type { Command } from '@/core/project/commands';
import type { Material } from '@/core/material/schema';
import type { Project, Surface } from '@/core/project/schema';
import { defaultSpec, type Spec } from '@/core/spec/schema';

type Rule = { slot?: string; part?: RegExp; surface?: RegExp; material: string; spec?: (s: Spec) => Spec };

const turned =
  (deg: number) =>
  (s: Spec): Spec => ({ ...s, direction: { ...s.direction, turnDeg: deg } });
const boxed = (s: Spec): Spec => ({ ...s, mapping: { kind: 'box', axes: 'surface' } });
const sized =
  (widthMm: number, heightMm: number) =>
  (s: Spec): Spec => ({ ...s, repeat: { own: { widthMm, heightMm }, locked: true } });
/** Courses are counted from one level all through the building. */
const fromWorld = (s: Spec): Spec => ({ ...s, start: { datum: 'world', xMm: 0, yMm: 0 } });

/** What a practitioner would lay, slot by slot; later rules win. */
const RULES: Rule[] = [
  { slot: 'floor boards', material: 'smoked-oak' },
  { part: /^Watch room floor$/, material: 'tallow-walnut', spec: turned(90) },
  { slot: 'lobby tile', material: 'clay-octagon' },
  { slot: 'mat', material: 'wool-cloth' },
  { slot: 'plaster', material: 'lime-plaster' },
  { slot: 'brick', material: 'laid-brick', spec: fromWorld },
  { slot: 'brick ring', material: 'facing-brick' },
  { slot: 'painted', material: 'painted-board' },
  { slot: 'tile', material: 'glazed-tile', spec: boxed },
  { slot: 'stone', material: 'corran-stone', spec: boxed },
  { slot: 'slate', material: 'harbour-slate' },
  { slot: 'door boards', material: 'painted-board', spec: sized(1400, 1400) },
  { slot: 'metal', material: 'brushed-metal' },
  { slot: 'wood', material: 'tallow-walnut', spec: boxed },
  { slot: 'webbing', material: 'jute-webbing' },
  { slot: 'cloth', material: 'wool-cloth', spec: boxed },
  { slot: 'lamp', material: 'lamp-glass' },
  { slot: 'roof', material: 'harbour-slate', spec: sized(1800, 1800) },
  { slot: 'printed band', material: 'test-picture', spec: sized(480, 480) },
  { slot: 'notice', material: 'test-picture', spec: sized(640, 840) },
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
  const lay: Command[] = [...groups].map(([id, specs]) => ({ kind: 'setSpecs', specs, materials: [byId.get(id)!] }));
  const view = (id: string, name: string, eye: [number, number, number], target: [number, number, number]): Command => ({
    kind: 'saveView', view: { id, name, eye, target },
  }); // prettier-ignore
  const bare = Object.values(project.surfaces).filter((s) => /^(Ceiling|Underside)$/.test(s.name) && /floor|stage|base/i.test(project.parts[s.part].name)); // prettier-ignore
  return [
    ...lay,
    { kind: 'setSurfaces', ids: bare.map((s) => s.id), leftBare: true },
    view('view-hall', 'Hall from the lobby', [11.2e3, 1.6e3, -0.9e3], [3.2e3, 1.1e3, -5.2e3]),
    view('view-landing', 'Landing stage', [19.5e3, 1.2e3, 4.5e3], [12.4e3, 0.9e3, -4e3]),
  ];
}

function matches(rule: Rule, surface: Surface, project: Project, slots: string[]): boolean {
  if (rule.slot && slots[surface.slot] !== rule.slot) return false;
  if (rule.part && !rule.part.test(project.parts[surface.part].name)) return false;
  return !rule.surface || rule.surface.test(surface.name);
}
