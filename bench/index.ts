import { Logger, Verbosity, WebIO } from '@gltf-transform/core';
import { weld } from '@gltf-transform/functions';
import { execFileSync } from 'node:child_process';
import { gzipSync } from 'node:zlib';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { makeGlb } from '@/core/testing/fixtures';
import { fileSetOf } from '@/core/formats/fileSet';
import { writeMeshes } from '@/core/formats/meshFile';
import { readModel } from '@/core/formats/readModel';
import { buildSheet } from '@/core/mapping/sheet';
import { findNeighbours } from '@/core/mesh/adjacency';
import { nameSurfaces } from '@/core/mesh/naming';
import { prepareModel } from '@/core/mesh/prepare';
import { weldPositions } from '@/core/mesh/weld';
import { layCoordinates, shapeSurface } from '@/core/dress/dressSurface';
import { benchMapping } from './mapping';
import { compare, type Row, time } from './measure';
import { benchPictures, largestSeamless } from './picture';
import { benchChange, benchCurved, benchPieces } from './pieces';

const rows: Row[] = [];

/** Peak memory of a piece of work in a process of its own, MB; it reads the model as a file, so that making it does not count. */
function peakMb(what: string, file: string): number {
  const out = execFileSync(process.execPath, ['--expose-gc', process.argv[1], `--peak=${what}`, file], {
    encoding: 'utf8',
    maxBuffer: 1 << 24,
  });
  return Number(/peak (\d+)/.exec(out)![1]);
}

/** A model of 500 wavy plates, a million triangles in all. */
async function million(): Promise<Uint8Array> {
  const n = 32;
  const parts = Array.from({ length: 500 }, (_, part) => {
    const triangles: number[] = [];
    const at = (i: number, j: number) => [
      i * 0.1 + (part % 25) * 4,
      Math.sin(i * 0.3) * Math.cos(j * 0.2) * 0.05,
      j * 0.1 + Math.floor(part / 25) * 4,
    ];
    for (let i = 0; i < n; i++) {
      for (let j = 0; j < n - 1; j++) {
        const [a, b, c, d] = [at(i, j), at(i, j + 1), at(i + 1, j + 1), at(i + 1, j)];
        triangles.push(...a, ...b, ...c, ...a, ...c, ...d);
      }
    }
    return { name: `Plate ${part}`, triangles };
  });
  return makeGlb(parts);
}

const read = (glb: Uint8Array) => readModel(fileSetOf({ 'million.glb': glb }));

/** For comparison: glTF-Transform reads and welds; neighbours as any importer must find them. */
async function libraryImport(glb: Uint8Array): Promise<number> {
  const document = await new WebIO().setLogger(new Logger(Verbosity.SILENT)).readBinary(glb);
  await document.transform(weld());
  let neighbours = 0;
  for (const mesh of document.getRoot().listMeshes()) {
    for (const primitive of mesh.listPrimitives()) {
      const indices = Uint32Array.from(primitive.getIndices()!.getArray()!);
      neighbours += findNeighbours(indices, primitive.getAttribute('POSITION')!.getCount()).across.length;
    }
  }
  return neighbours;
}

/** The reference of the budget: parse, weld, adjacency, and nothing that makes surfaces. */
async function leanImport(glb: Uint8Array): Promise<number> {
  const document = await new WebIO().readBinary(glb);
  let neighbours = 0;
  for (const mesh of document.getRoot().listMeshes()) {
    for (const primitive of mesh.listPrimitives()) {
      const positions = primitive.getAttribute('POSITION')!.getArray() as Float32Array;
      const welded = weldPositions(positions, 1e-5);
      neighbours += findNeighbours(welded, positions.length / 3).across.length;
    }
  }
  return neighbours;
}

async function fullImport(glb: Uint8Array): Promise<number> {
  const raw = await read(glb);
  const prepared = prepareModel(raw, { unitMm: 1000, upAxis: 'y' });
  for (const part of prepared.parts) nameSurfaces(part.surfaces, 0);
  return writeMeshes(prepared.parts.map((p) => p.mesh)).length;
}

async function benchImport(): Promise<void> {
  const glb = await million();
  const library = await time(() => libraryImport(glb));
  const {
    taken: full,
    base: lean,
    ratio,
  } = await compare(
    () => fullImport(glb),
    () => leanImport(glb),
  );
  const name = 'import of 1,000,000 triangles in 500 parts, file to surfaces ready';
  rows.push({ name, value: full, unit: 'ms', against: `parse + weld + adjacency, ${lean.toFixed(0)} ms`, ratio, budget: 2 }); // prettier-ignore
  rows.push({ name, value: full, unit: 'ms', against: `glTF-Transform's parse and weld, and adjacency, ${library.toFixed(0)} ms`, ratio: full / library, budget: null }); // prettier-ignore
  const folder = mkdtempSync(path.join(tmpdir(), 'jute-grid-bench-'));
  const file = path.join(folder, 'million.glb');
  writeFileSync(file, glb);
  const [idle, leanPeak, fullPeak] = ['idle', 'lean', 'full'].map((what) => peakMb(what, file));
  rmSync(folder, { recursive: true });
  rows.push({ name: 'the same, peak memory above an idle process that holds the file', value: fullPeak - idle, unit: 'MB', against: `parse + weld + adjacency, ${leanPeak - idle} MB`, ratio: (fullPeak - idle) / (leanPeak - idle), budget: 2 }); // prettier-ignore
}

async function benchDress(): Promise<void> {
  const glb = await million();
  const prepared = prepareModel(await read(glb), { unitMm: 1000, upAxis: 'y' });
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
  rows.push({ name: 'coordinates of a surface after one field changed', value: taken / repeat, unit: 'ms', against: `fill of the same bytes, ${(base / repeat).toFixed(3)} ms`, ratio, budget: null }); // prettier-ignore
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
  if (peak === 'seamless') largestSeamless();
  else {
    const glb = new Uint8Array(readFileSync(process.argv.at(-1)!));
    if (peak === 'lean') await leanImport(glb);
    else if (peak === 'full') await fullImport(glb);
  }
  // this process's own high-water mark; resourceUsage().maxRSS would be inherited from the parent
  const [, kB] = /VmHWM:\s+(\d+) kB/.exec(readFileSync('/proc/self/status', 'utf8'))!;
  console.log(`peak ${Math.round((Number(kB) * 1024) / 1e6)}`);
} else {
  await benchImport();
  await benchDress();
  await benchPieces(rows);
  await benchCurved(rows);
  await benchChange(rows);
  await benchMapping(rows);
  await benchPictures(rows);
  rows.push({ name: 'evened and seamless, 8192², peak memory of a process of its own', value: peakMb('seamless', '-'), unit: 'MB', against: 'the picture itself, 403 MB', ratio: null, budget: null }); // prettier-ignore
  benchScript();
  if (process.argv.includes('--json')) console.log(JSON.stringify(rows, null, 1));
  else {
    for (const r of rows) {
      const verdict = r.budget === null ? '' : r.ratio! <= r.budget ? 'within' : 'OVER';
      console.log(
        `${r.name}\n    ${r.value.toFixed(r.value < 10 ? 3 : 0)} ${r.unit} against ${r.against}: ${r.ratio?.toFixed(2)} ×${r.budget === null ? '' : `, budget ${r.budget} ×, ${verdict}`}`,
      );
    }
  }
}
process.exit(0);
