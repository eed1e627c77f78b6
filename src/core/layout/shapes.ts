/**
 * Shapes of cells and pieces: convex, counter-clockwise, between −1 and 1 along and across. What is drawn, exported and
 * counted is one of these stretched to half sides; the room's shader knows them by number.
 */
export const SHAPES = [
  { name: 'rectangle', corners: [-1, -1, 1, -1, 1, 1, -1, 1], share: 1 },
  { name: 'hexagon, point up', corners: [0, -1, 1, -0.5, 1, 0.5, 0, 1, -1, 0.5, -1, -0.5], share: 0.75 },
  { name: 'hexagon, flat up', corners: [-0.5, -1, 0.5, -1, 1, 0, 0.5, 1, -0.5, 1, -1, 0], share: 0.75 },
] as const;

export const RECTANGLE = 0;
export const HEXAGON_POINT_UP = 1;
export const HEXAGON_FLAT_UP = 2;
