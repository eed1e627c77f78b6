import { NAMINGS, type Naming, PICTURE_FILES, pictureFileOf } from './pictureFiles';
import { ROLES } from './schema';

test('files are named by role in the ways people know', () => {
  expect(pictureFileOf('baseColour', 'Smoked oak', 'role', 'png')).toBe('baseColour.png');
  expect(pictureFileOf('baseColour', 'Smoked oak', 'capitals', 'jpeg')).toBe('SmokedOak_BaseColor.jpg');
  expect(pictureFileOf('normal', 'Smoked oak', 'small', 'tiff')).toBe('smoked_oak_normal.tif');
  expect(pictureFileOf('roughness', 'Smoked oak', 'short', 'webp')).toBe('smoked_oak_rgh.webp');
});

test.each(Object.keys(NAMINGS) as Naming[])(
  '“%s”: no two roles share a file, and no name leads out of its folder',
  (naming) => {
    for (const file of Object.keys(PICTURE_FILES) as (keyof typeof PICTURE_FILES)[]) {
      const names = ROLES.map((role) => pictureFileOf(role, '../Oak / 2: "tide"', naming, file));
      expect(new Set(names.map((n) => n.toLowerCase())).size).toBe(ROLES.length);
      for (const name of names) expect(name).not.toMatch(/[/\\:"]|^\./);
    }
  },
);
