import type { Spec } from '../specification/schema';
import type { GaugeLimit, GaugeSpec } from '../specification/gauge';
import { need } from './records';
import type { Project } from './schema';

const gaugeLimits = ({ gauge }: Spec): GaugeLimit[] =>
  [gauge?.up, gauge?.across].flatMap((side) => (side ? [side.from, side.to] : []));

/** The levels a spec is set out from, with what lies below a picture that is laid once. */
export function levelsOf(spec: Spec): string[] {
  const rest = spec.repeat.once?.rest;
  const own = [
    ...(spec.start.level ? [spec.start.level.id] : []),
    ...gaugeLimits(spec).flatMap((l) => (l.kind === 'level' ? [l.level.id] : [])),
  ];
  return rest?.kind === 'below' ? [...own, ...levelsOf(rest.spec)] : own;
}

/** A spec set out from a level carries that level's height, so that it can be laid without the project. */
export function atLevel(spec: Spec, levels: Project['levels']): Spec {
  const { once } = spec.repeat;
  if (once?.rest.kind === 'below') {
    const below = atLevel(once.rest.spec, levels);
    if (below !== once.rest.spec)
      spec = { ...spec, repeat: { ...spec.repeat, once: { ...once, rest: { kind: 'below', spec: below } } } };
  }
  const gauge = spec.gauge && gaugeAtLevels(spec.gauge, levels);
  if (gauge && gauge !== spec.gauge) spec = { ...spec, gauge };
  const { level } = spec.start;
  if (!level) return spec;
  const { heightMm } = need(levels, level.id, 'level');
  return level.heightMm === heightMm ? spec : { ...spec, start: { ...spec.start, level: { ...level, heightMm } } };
}

function gaugeAtLevels(gauge: GaugeSpec, levels: Project['levels']): GaugeSpec {
  const limit = (of: GaugeLimit): GaugeLimit => {
    if (of.kind !== 'level') return of;
    const { heightMm } = need(levels, of.level.id, 'level');
    return heightMm === of.level.heightMm ? of : { ...of, level: { ...of.level, heightMm } };
  };
  let made = gauge;
  for (const axis of ['up', 'across'] as const) {
    const side = gauge[axis];
    if (!side) continue;
    const [from, to] = [limit(side.from), limit(side.to)];
    if (from !== side.from || to !== side.to) made = { ...made, [axis]: { ...side, from, to } };
  }
  return made;
}

export function atLevels(project: Project): Project {
  const surfaces = { ...project.surfaces };
  for (const s of Object.values(surfaces)) {
    const spec = s.spec && atLevel(s.spec, project.levels);
    if (spec !== s.spec) surfaces[s.id] = { ...s, spec };
  }
  return { ...project, surfaces };
}
