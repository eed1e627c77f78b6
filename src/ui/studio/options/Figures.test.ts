/** @jest-environment node */
import { emptyProject, type Project, type Surface } from '@/core/project/schema';
import { defaultSpec, type Spec } from '@/core/specification/schema';
import { laidOtherwise } from './Figures';

jest.mock('../../project/sheetService', () => ({}));

const withSpecs = (specs: Record<string, Spec | null>): Project => ({
  ...emptyProject('p', 'P'),
  surfaces: Object.fromEntries(Object.entries(specs).map(([id, spec]) => [id, { id, spec } as Surface])),
});

test('what is laid otherwise is told from what is as it was, is new, or bare', () => {
  const oak = defaultSpec('oak');
  const turned = { ...oak, direction: { ...oak.direction, turnDeg: 45 } };
  const then = withSpecs({ floor: oak, wall: oak, soffit: oak, gone: oak });
  const now = withSpecs({ floor: turned, wall: structuredClone(oak), soffit: null, added: oak });
  expect(laidOtherwise(now, then)).toEqual({ floor: turned });
  expect(laidOtherwise(then, now)).toEqual({ floor: oak, soffit: oak });
});
