import { findOddAspects, readRole, titleFrom } from './roles';

test.each([
  ['smoked-oak_basecolor.png', 'smoked-oak', 'baseColour'],
  ['smoked-oak_diff.jpg', 'smoked-oak', 'baseColour'],
  ['smoked-oak_nrm.png', 'smoked-oak', 'normal'],
  ['smoked-oak_nm.png', 'smoked-oak', 'normal'],
  ['SmokedOak_N.png', 'SmokedOak', 'normal'],
  ['smoked-oak_2k_nml.png', 'smoked-oak', 'normal'],
  ['smoked-oak_2k_rough.png', 'smoked-oak', 'roughness'],
  ['maps/smoked-oak_height_1024.png', 'smoked-oak', 'height'],
  ['wall AO.png', 'wall', 'occlusion'],
  ['HarbourWallMetal.webp', 'HarbourWall', 'metallic'],
  ['web_opacity.png', 'web', 'opacity'],
  ['lamp_emit.png', 'lamp', 'emission'],
])('%s is the %s of', (file, material, role) => {
  expect(readRole(file)).toEqual({ material, role, certain: true });
});

test('a name that says nothing is a base colour, and said to be uncertain', () => {
  expect(readRole('IMG_2041.jpg')).toEqual({ material: 'IMG_2041', role: 'baseColour', certain: false });
  // “floor” ends in no role, though it ends in letters of one
  expect(readRole('floor.png')).toMatchObject({ material: 'floor', certain: false });
});

test('names are made readable, odd shapes found', () => {
  expect(titleFrom('smokedOak_boards-wide')).toBe('Smoked oak boards wide');
  const map = (widthPx: number, heightPx: number) => ({ widthPx, heightPx });
  expect(findOddAspects({ baseColour: map(1024, 512), normal: map(2048, 1024), height: map(512, 512) })).toEqual([
    { role: 'height', ratio: 0.5 },
  ]);
});
