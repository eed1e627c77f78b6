import { laidSpec, oak } from '@/core/testing/surfaces';
import { defaultSpec } from '@/core/specification/schema';
import { inSoldiers, soldierBand } from './soldierBand';

test('soldiers are of the wall’s own bricks and joints, and stand level from their own corner', () => {
  const wall = laidSpec({
    layout: { kind: 'stretcher', lengthMm: 240, heightMm: 52, lap: 0.5, raking: false },
    joint: 12,
    turnDeg: 30,
    start: [70, 80],
  });
  const { pieces, start, direction } = inSoldiers(wall)!;
  expect(pieces!.layout).toMatchObject({ kind: 'soldier', stretcherMm: 240, heightMm: 52, shows: 'face' });
  expect(pieces!.joint.acrossMm).toBe(12);
  expect([start, direction.turnDeg]).toEqual([{ datum: 'corner', xMm: 0, yMm: 0 }, 0]);
});

test('where there are no bricks they are those they start with; where nothing is laid, nothing', () => {
  expect(inSoldiers(defaultSpec(oak().id))!.pieces!.layout).toMatchObject({ kind: 'soldier', stretcherMm: 215 });
  expect(inSoldiers(null)).toBeNull();
  expect(soldierBand({ heightMm: 900, from: 'foot', levelMm: 0 })).toMatchObject({ side: 'above', courses: 1 });
});
