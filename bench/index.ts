import { gzipSync } from 'node:zlib';
import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { fileSetOf } from '@/core/formats/fileSet';
import { readModel } from '@/core/formats/readModel';
import { buildSheet } from '@/core/mapping/sheet';
import { prepareModel } from '@/core/mesh/prepare';
import { layCoordinates, shapeSurface } from '@/core/dress/dressSurface';
import { benchImport, fullImport, leanImport, million, peakMb } from './import';
import { benchHandlers } from './handlers';
import { benchMapping } from './mapping';
import { compare, Rows } from './measure';
import { benchLargest, benchPictures, largest } from './picture';
import { benchChange, benchCurved, benchPieces } from './pieces';
import { benchRun, benchStart } from './settingOut';
import { benchWear } from './wear';

const asJson = process.argv.includes('--json');
const names = process.argv.slice(2).filter((a) => !a.startsWith('--'));
const rows = new Rows(names, asJson ? null : console.log);

async function benchDress(): Promise<void> {
  const raw = await readModel(fileSetOf({ 'million.glb': await million() }));
  const prepared = prepareModel(raw, { unitMm: 1000, upAxis: 'y' });
  const [part] = prepared.parts;
  const surface = part.surfaces[0];
  const placement = {
    widthMm: 600,
    heightMm: 300,
    at: [3, 4] as [number, number],
    turnDeg: 30,
    mirrorX: false,
    mirrorY: true,
  };
  const sheet = buildSheet(part.mesh, surface.faces, { kind: 'flat', direction: 'auto' });
  const { corner } = shapeSurface(sheet);
  const repeat = 400;
  const fill = () => {
    for (let r = 0; r < repeat; r++) {
      const out = new Float32Array(corner.length * 2);
      for (let i = 0; i < out.length; i++) out[i] = i;
    }
  };
  const lay = () => {
    for (let r = 0; r < repeat; r++) layCoordinates(sheet, corner, placement);
  };
  const { taken, base, ratio } = await compare(lay, fill);
  rows.push({
    name: 'coordinates of a surface after one field changed',
    value: taken / repeat,
    unit: 'ms',
    against: `fill of the same bytes, ${(base / repeat).toFixed(3)} ms`,
    ratio,
    budget: null,
  });
}

/** Everything the studio page loads as script, compressed; workers are counted too. */
function benchScript(): void {
  const manifest = readFileSync(
    path.join('.next', 'server', 'app', 'projects', '[id]', 'page_client-reference-manifest.js'),
    'utf8',
  );
  const files = new Set([...manifest.matchAll(/static\/chunks\/[\w.~-]+\.js/g)].map((m) => m[0]));
  const build = JSON.parse(readFileSync(path.join('.next', 'build-manifest.json'), 'utf8')) as {
    rootMainFiles: string[];
  };
  for (const f of build.rootMainFiles) files.add(f);
  let total = 0;
  for (const f of files) total += gzipSync(readFileSync(path.join('.next', f)), { level: 9 }).length;
  rows.push({
    name: 'studio script, compressed',
    value: total / 1000,
    unit: 'kB',
    against: '700 kB',
    ratio: total / 700_000,
    budget: 1,
  });
  if (!files.size) throw new Error(`no script was found; .next holds ${readdirSync('.next').join(', ')}`);
}

const peak = process.argv.find((a) => a.startsWith('--peak='))?.slice(7);
if (peak) {
  const file = process.argv.at(-1)!;
  if (peak === 'lean') await leanImport(file);
  else if (peak === 'full') await fullImport(file);
  else if (peak !== 'idle') largest(peak);
  // this process's own high-water mark; resourceUsage().maxRSS would be inherited from the parent
  const [, kB] = /VmHWM:\s+(\d+) kB/.exec(readFileSync('/proc/self/status', 'utf8'))!;
  console.log(`peak ${Math.round((Number(kB) * 1024) / 1e6)}`);
} else {
  const groups: [string, () => unknown][] = [
    ['import', () => benchImport(rows)],
    ['coordinates', () => benchDress()],
    ['pieces stretcher herringbone hexagons Flemish octagons shapes planks coursed', () => benchPieces(rows)],
    ['curved', () => benchCurved(rows)],
    ['run', () => benchRun(rows)],
    ['start', () => benchStart(rows)],
    ['wear', () => benchWear(rows)],
    ['change', () => benchChange(rows)],
    ['handlers hover pick', () => benchHandlers(rows)],
    ['mapping', () => benchMapping(rows)],
    ['pictures', () => benchPictures(rows)],
    ['largest', () => benchLargest(rows, peakMb)],
    ['script', () => benchScript()],
    ['gestures', async () => (await import('./gestures')).benchGestures(rows)],
  ];
  // takes long, and has names of its own: only when it is asked for
  if (names[0] === 'growth') await (await import('./growth')).benchGrowth(rows, names.slice(1));
  else for (const [name, measure] of groups) if (rows.wants(name)) await measure();
  if (asJson) console.log(JSON.stringify(rows.list, null, 1));
  if (!rows.list.length)
    console.log(`No row is called ${names.join(', ')}; there are ${groups.map(([n]) => n).join(', ')}.`);
}
process.exit(0);
