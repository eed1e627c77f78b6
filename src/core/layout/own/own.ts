import { type Static, Type } from '@sinclair/typebox';
import { Side } from '../../schema/sizes';
import { NoPieceError, shapeOfCell } from '../modules';
import { grout, pattern } from '../pattern';
import type { PeriodCell } from '../period';
import { faultOfModule, OwnModule, type OwnShape, widthOf } from './module';

export const OwnLayout = Type.Object({
  kind: Type.Literal('own'),
  /** As the library had it when it was taken: what is laid stays as it is whatever becomes of that. */
  module: OwnModule,
  /** How long its step to the right is laid; it keeps its proportions, mm. */
  widthMm: Side,
});
export type OwnLayout = Static<typeof OwnLayout>;

/** A module that there always is: an ell round a square, as paving slabs are laid. */
const ELL: OwnModule = {
  id: 'ell-and-square',
  name: 'Ell and square',
  as: 'cells',
  right: [400, 0],
  up: [0, 400],
  shapes: [
    { role: 'ell', corners: [0, 0, 400, 0, 400, 200, 200, 200, 200, 400, 0, 400] },
    { role: 'square', corners: [200, 200, 400, 200, 400, 400, 200, 400] },
  ],
};

/** Laid as wide as it is drawn. */
export const layOwn = (module: OwnModule): OwnLayout => ({ kind: 'own', module, widthMm: widthOf(module) });

/** Closed shapes of a drawing, repeated. */
export const own = pattern<OwnLayout>({
  kind: 'own',
  label: 'A module of one’s own',
  trade: 'own',
  also: ['drawing', 'svg', 'dxf', 'custom', 'motif'],
  schema: OwnLayout,
  first: { module: ELL, widthMm: widthOf(ELL) },
  joint: grout(4),
  formats: [],
  roles: ['tile'],
  rolesOf: ({ module }) => [...new Set(module.shapes.map((s) => s.role))],
  takenFrom: ({ module }) => module.id,
  faultOf: ({ module }) => faultOfModule(module),
  jointDrawn: ({ module }) => module.as === 'pieces',
  // one number sizes all of it: whichever side was typed
  size: {
    label: 'Repeats every',
    sorted: false,
    get: (s) => [s.widthMm, s.widthMm * proportion(s.module)],
    set: (s, [width, height]) => ({
      ...s,
      widthMm: width === s.widthMm ? height / proportion(s.module) : width,
    }),
  },
  lengths: ['widthMm'],
  fields: [],
  describe: ({ module, widthMm }, size) => `“${module.name}” repeated every ${size(widthMm)}`,
  period({ module, widthMm }, { acrossMm: joint }) {
    const f = widthMm / widthOf(module);
    const at = (p: readonly number[]) => p.map((v) => v * f);
    return {
      right: [module.right[0] * f, module.right[1] * f],
      up: [module.up[0] * f, module.up[1] * f],
      cells: module.shapes.map((shape): PeriodCell => {
        const piece = module.as === 'pieces' ? at(shape.corners) : pieceBesideGap(shape, f, joint);
        return { role: shape.role, cell: at(shape.cell ?? shape.corners), ...(piece ? { piece } : {}) };
      }),
    };
  },
});

/** How much longer the step up is than the one to the right. */
const proportion = (module: OwnModule): number => Math.hypot(...module.up) / widthOf(module);

/** Of a cell that takes a gap with it: the shape less its joint, and all of the gap is joint. */
function pieceBesideGap({ corners, cell }: OwnShape, f: number, joint: number): number[] | null {
  if (!cell) return null;
  const scaled = corners.map((v) => v * f);
  try {
    const { shape, middle } = shapeOfCell(scaled, new Float64Array(corners.length / 2).fill(joint / 2));
    return Array.from(shape.piece, (v, k) => v + middle[k & 1]);
  } catch (error) {
    if (error instanceof NoPieceError) return scaled;
    throw error;
  }
}
