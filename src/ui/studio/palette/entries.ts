import { JOINT_FIELDS } from '@/core/layout/jointFields';
import { layoutOf, LAYOUTS } from '@/core/layout/registry';
import { mappingOf, MAPPINGS } from '@/core/mapping/registry';
import type { MappingSpec } from '@/core/mapping/schema';
import type { Project } from '@/core/project/schema';
import { FINISH_FIELDS } from '@/core/specification/finishFields';
import type { Spec } from '@/core/specification/schema';
import { VARIATION_FIELDS } from '@/core/variation/fields';
import { useProject } from '../../project/projectStore';
import { useSelection } from '../../project/selection';
import { useBenchFold } from '../bench/benchStore';
import type { SegmentId } from '../bench/fold';
import { useFaces } from '../faces/facesStore';
import { becomeLayout, presetOf } from '../pieces/becomeLayout';
import { useRoomSettings } from '../room/settings';

/** Something that can be done, by name. */
export interface Entry {
  label: string;
  /** Said beside it. */
  where: string;
  /** What else people call it. */
  also: readonly string[];
  run: () => void;
}

/** Fields that stand on segments without a definition of their own. */
const PLAIN: [SegmentId, string, string[]][] = [
  ['material', 'Find a material', ['swatch', 'library', 'texture']],
  ['material', 'On top', ['once', 'label', 'rug', 'sticker', 'decal', 'poster']],
  ['repeat', 'Width', ['size of the picture', 'scale', 'repeat']],
  ['repeat', 'Height', ['size of the picture', 'scale', 'repeat']],
  ['repeat', 'Across', ['count', 'how often', 'tiling']],
  ['repeat', 'Up', ['count', 'how often', 'tiling']],
  ['repeat', 'Once only', ['single picture', 'do not repeat']],
  ['repeat', 'A band of it', ['strip', 'frieze', 'skirting']],
  ['start', 'Datum', ['origin', 'level', 'corner', 'centre', 'site zero']],
  ['start', 'Right', ['offset', 'slide', 'move', 'shift']],
  ['start', 'Up', ['offset', 'slide', 'move', 'shift']],
  ['start', 'Turned', ['rotation', 'angle', 'direction', 'diagonal']],
  ['start', 'A quarter turn left', ['rotate', '90°']],
  ['start', 'Mirror left to right', ['flip']],
  ['start', 'Mirror top to bottom', ['flip']],
  ['pieces', 'Layout', ['bond', 'pattern', 'planks', 'bricks', 'tiles']],
  ['pieces', 'Joints', ['grout', 'mortar', 'gap']],
  ['pieces', 'At an arris they', ['edge', 'corner', 'fold', 'return']],
  ['variation', 'Shuffle', ['random', 'seed', 'variation']],
  ['wear', 'Add wear', ['dirt', 'dust', 'patina', 'grime', 'weathering', 'stain', 'decal', 'bleach', 'rubbed']],
  ['mapping', 'Shear', ['skew', 'slant', 'correct']],
  ['mapping', 'Wider at the top', ['taper', 'trapeze', 'correct']],
];

const toField = (segment: SegmentId, label: string, also: readonly string[] = []): Entry => ({
  label,
  where: `field, ${segment}`,
  also: [segment, ...also],
  run: () => useBenchFold.getState().goTo(segment, label),
});

/** Every field of the bench for what is picked now. */
export function fieldEntries(spec: Spec | null): Entry[] {
  const of = (segment: SegmentId, fields: readonly { label: string }[]) =>
    fields.map(({ label }) => toField(segment, label));
  const plain = PLAIN.map(([segment, label, also]) => toField(segment, label, also));
  if (!spec) return plain;
  const layout = spec.pieces && layoutOf(spec.pieces.layout);
  const inPieces = layout?.cells === 'laid';
  return [
    ...plain,
    ...of('mapping', mappingOf(spec.mapping).fields),
    ...(layout ? [...of('pieces', layout.fields), ...(layout.size ? of('pieces', [layout.size]) : [])] : []),
    ...(inPieces ? of('pieces', JOINT_FIELDS) : []),
    ...(inPieces
      ? of(
          'variation',
          VARIATION_FIELDS.flatMap((g) => g.fields),
        )
      : []),
    ...of('finish', FINISH_FIELDS),
  ];
}

/** Changes every picked surface that carries a spec, as one step. */
function editPicked(change: (spec: Spec) => Spec): void {
  const { project, run } = useProject.getState();
  const laid = useSelection.getState().ids.filter((id) => project?.surfaces[id]?.spec);
  if (!project || !laid.length) return;
  const specs = Object.fromEntries(laid.map((id) => [id, change(project.surfaces[id].spec!)]));
  run([{ kind: 'setSpecs', specs }]);
}

/** Every layout and every mapping, laid on what is picked. */
export const wayEntries = (): Entry[] => [
  ...LAYOUTS.map(({ kind, label, also = [] }) => ({
    label,
    where: 'layout',
    also: ['layout', ...also],
    run: () => editPicked((spec) => becomeLayout(spec, presetOf(kind))),
  })),
  ...MAPPINGS.map(({ kind, label, first, also = [] }) => ({
    label,
    where: 'mapping',
    also: ['mapping', ...also],
    run: () => editPicked((spec) => (spec.mapping.kind === kind ? spec : { ...spec, mapping: first as MappingSpec })),
  })),
];

/** Every tool that is taken in hand. */
export function toolEntries(project: Project): Entry[] {
  const s = useSelection.getState();
  const room = useRoomSettings.getState();
  const tool = (label: string, also: string[], run: () => void): Entry => ({ label, where: 'tool', also, run });
  return [
    tool('Pin pieces', ['keep', 'hold'], () => s.setPieceTool('pin')),
    tool('New print for single pieces', ['deal', 'change one piece'], () => s.setPieceTool('deal')),
    tool('Zone: a rectangle', ['inset field', 'rug', 'panel'], () => s.setZoneTool('rectangle')),
    tool('Zone: a circle', ['round field', 'medallion'], () => s.setZoneTool('circle')),
    tool('Zone: an outline, corner by corner', ['polygon'], () => s.setZoneTool('polygon')),
    tool('Pull a point of the sheet', ['correct', 'warp'], () => s.setPullTool('point')),
    tool('Pull a row of the sheet', ['correct', 'warp'], () => s.setPullTool('row')),
    tool('Unroll: start at a face', ['unfold'], () => s.setUnrollTool('start')),
    tool('Unroll: cut along an edge', ['unfold', 'seam'], () => s.setUnrollTool('cut')),
    tool('Mark out faces by hand', ['faces', 'polygons', 'grow'], () => useFaces.getState().setActive(true)),
    tool('Pick what is seen in a rectangle', ['marquee', 'box'], () => s.setRectangle('seen')),
    tool('Pick all that lies in a rectangle', ['marquee', 'box', 'through'], () => s.setRectangle('through')),
    tool('A person of 1.72 m', ['scale', 'figure'], () => room.set({ person: !room.person })),
    tool('Ruler grid', ['metres', 'scale'], () => room.set({ grid: !room.grid })),
    tool('The mesh’s edges', ['wireframe', 'triangles', 'faces'], () => room.set({ edges: !room.edges })),
    ...Object.values(project.selections).map((kept) =>
      tool(`Pick ${kept.name}`, ['kept', 'selection'], () =>
        s.select(kept.surfaces.filter((id) => project.surfaces[id])),
      ),
    ),
  ];
}
