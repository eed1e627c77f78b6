// Draws every layout for docs/layouts.md, in true proportion, from the definitions themselves, and the pictures of
// docs/setting-out.md from what is laid.
import { mkdirSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { drawRun, drawStarts } from './settingOut.mjs';
import { install, root } from './steps.mjs';

install();
const { build } = await import('esbuild');
const out = path.join(root, 'docs', 'layouts');
const bundle = path.join(root, 'node_modules', '.cache', 'drawings.mjs');
await build({
  stdin: {
    contents: `
      export { LAYOUTS } from './src/core/layout/registry';
      export { areaOf } from './src/core/layout/area';
      export { listCells } from './src/core/testing/cells';
      export { drawStart } from './src/core/draw/start';
      export { lay } from './src/core/lay/lay';
      export { proposeStarts } from './src/core/lay/proposeStarts';
      export { FIRST_MAPPING } from './src/core/mapping/schema';
      export { facesOf, looseMesh, patch } from './src/core/testing/shapes';
      export { laidSpec, oak, wallMesh } from './src/core/testing/surfaces';`,
    resolveDir: root,
    loader: 'ts',
  },
  bundle: true,
  platform: 'node',
  format: 'esm',
  outfile: bundle,
  packages: 'external',
  logLevel: 'error',
});
const core = await import(bundle);
const { LAYOUTS, areaOf, listCells } = core;

const PX = 240;
const TONES = ['#c9b18c', '#a98a63', '#dccaa8', '#8f7350', '#b9a47f'];
const square = (side) => [
  [0, 0],
  [side, 0],
  [side, side],
  [0, side],
];

/** About four pieces, or all of what repeats where that is more. */
function sizeOf({ preset: { spec, joint }, open, pitch }) {
  const { largest } = open(spec, joint, areaOf([square(4000)]));
  const [length, width] = largest;
  const repeat = 1.15 * (pitch?.(spec, joint) ?? 0);
  return Math.max(width * 4, Math.min(length * 2.1, width * 10), Math.min(repeat, width * 16));
}

function draw(layout) {
  const { spec, joint } = layout.preset;
  const size = sizeOf(layout);
  const k = PX / size;
  const opened = layout.open(spec, joint, areaOf([square(size)]));
  // rings lie round their start
  const at = layout.trade === 'round' ? -size / 2 : 0;
  const cells = listCells(opened, { minX: at, minY: at, maxX: at + size, maxY: at + size });
  const paths = cells.map((c) => {
    const tone = TONES[layout.roles.indexOf(opened.roleOf(c.course, c.index)) % TONES.length];
    const d = c.piece.map(([x, y]) => `${((x - at) * k).toFixed(1)} ${(PX - (y - at) * k).toFixed(1)}`).join('L');
    return `<path fill="${tone}" d="M${d}Z"/>`;
  });
  return (
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${PX} ${PX}" width="${PX}" height="${PX}">\n` +
    `<title>${layout.label}</title>\n<rect width="${PX}" height="${PX}" fill="#f3efe4"/>\n${paths.join('\n')}\n</svg>\n`
  );
}

mkdirSync(out, { recursive: true });
for (const old of readdirSync(out)) rmSync(path.join(out, old));
const laid = LAYOUTS.filter((l) => l.cells === 'laid');
for (const layout of laid) writeFileSync(path.join(out, `${layout.kind}.svg`), draw(layout));
const settingOut = path.join(root, 'docs', 'setting-out');
mkdirSync(settingOut, { recursive: true });
writeFileSync(path.join(settingOut, 'run.svg'), drawRun(core));
writeFileSync(path.join(settingOut, 'starts.svg'), drawStarts(core));
console.log(`${laid.length} drawings in docs/layouts`);
