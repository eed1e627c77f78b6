/** @jest-environment node */
import { defaultJoint } from '@/core/layout/joint';
import { noMix } from '@/core/layout/mix';
import { defaultFinish, type Material } from '@/core/material/schema';
import { defaultSpec, type Spec } from '@/core/specification/schema';
import { plainVariation } from '@/core/variation/schema';
import { whatIsSeen } from './whatIsSeen';

const map = { image: 'a'.repeat(64), widthPx: 2048, heightPx: 2048, file: 'a.png' };
const brick = {
  id: 'brick',
  widthMm: 1024,
  heightMm: 1024,
  maps: { baseColour: map, normal: map },
  finish: { ...defaultFinish('matt'), reliefMm: 1.5 },
} as unknown as Material;
const spec: Spec = {
  ...defaultSpec('brick'),
  pieces: {
    layout: { kind: 'stretcher', lengthMm: 215, heightMm: 65, lap: 0.5, raking: false },
    joint: { ...defaultJoint(10), acrossMm: 8 },
    mix: noMix(),
  },
  variation: plainVariation(),
};

test('everything shows from near by; from afar bricks are left, then nothing', () => {
  const how = (pxPerMm: number) => Object.fromEntries(whatIsSeen(spec, brick, pxPerMm, 65).map((s) => [s.what, s.how]));
  expect(how(2)).toEqual({ pieces: 'clearly', joints: 'clearly', grain: 'clearly', relief: 'clearly' });
  // 100 mm a hundred pixels less: a joint of 10 mm is one pixel
  expect(how(0.1)).toEqual({ pieces: 'clearly', joints: 'barely', grain: 'not', relief: 'not' });
  expect(how(0.01)).toEqual({ pieces: 'barely', joints: 'not', grain: 'not', relief: 'not' });
  expect(whatIsSeen(spec, brick, 0.1, 65).find((s) => s.what === 'joints')).toMatchObject({ mm: 10, px: 1 });
});

test('what is not there is not told of', () => {
  const plain = { ...brick, maps: {} } as Material;
  expect(whatIsSeen(defaultSpec('brick'), plain, 1, null)).toEqual([]);
});
