import type { Model, Part, Surface } from '../project/schema';

/** Small things a project is made of, for tests: one model of one part, and surfaces of two faces each. */

export const model = (rest: Partial<Model> = {}): Model => ({
  id: 'model',
  name: 'Weir house',
  file: 'weir.glb',
  mesh: 'a'.repeat(64),
  unitMm: 1000,
  upAxis: 'y',
  triangles: 2,
  slots: [],
  remarks: [],
  missingPictures: [],
  missingBySlot: [],
  ...rest,
});

export const part = (rest: Partial<Part> = {}): Part => ({
  id: 'part',
  model: 'model',
  name: 'North wall',
  path: [],
  mesh: 0,
  origin: [0, 0, 0],
  min: [0, 0, 0],
  max: [1, 1, 1],
  locked: false,
  ...rest,
});

export const surface = (id: string, rest: Partial<Surface> = {}): Surface => ({
  id,
  part: 'part',
  name: id,
  faces: [0, 2],
  slot: 0,
  areaMm2: 1,
  normal: [0, 0, 1],
  hidden: false,
  leftBare: false,
  spec: null,
  ...rest,
});
