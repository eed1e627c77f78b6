import { Logger, Verbosity, WebIO } from '@gltf-transform/core';
import { weld } from '@gltf-transform/functions';
import { execFileSync } from 'node:child_process';
import {
  closeSync,
  createWriteStream,
  mkdtempSync,
  openSync,
  readFileSync,
  readSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { makeGlb } from '@/core/testing/fixtures';
import { findNeighbours } from '@/core/mesh/adjacency';
import { weldPositions } from '@/core/mesh/weld';
import { putBlob, removeBlob } from '@/server/store/data';
import { prepareForStore } from '@/server/importing/modelTasks';
import { dropUpload, receiveUpload } from '@/server/importing/uploads';
import { compare, type Rows, time } from './measure';

/** Peak memory of a piece of work in a process of its own, MB. */
export function peakMb(what: string, file: string): number {
  const out = execFileSync(process.execPath, ['--expose-gc', process.argv[1], `--peak=${what}`, file], {
    encoding: 'utf8',
    maxBuffer: 1 << 24,
  });
  return Number(/peak (\d+)/.exec(out)![1]);
}

/** A model of 500 wavy plates, a million triangles in all. */
export async function million(): Promise<Uint8Array> {
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

const silent = () => new WebIO().setLogger(new Logger(Verbosity.SILENT));

/** For comparison: glTF-Transform reads and welds; neighbours as any importer must find them. */
async function libraryImport(file: string): Promise<number> {
  const document = await silent().readBinary(readFileSync(file));
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

/**
 * The reference of the budget: what is sent is put on the disk as it comes, then parse, weld, adjacency; no surfaces.
 */
export async function leanImport(file: string): Promise<number> {
  const received = `${file}.received`;
  await pipeline(Readable.fromWeb(sending(file).body as never), createWriteStream(received));
  const bytes = readFileSync(received);
  const start = bytes.indexOf('glTF');
  const document = await silent().readBinary(bytes.subarray(start, start + bytes.readUInt32LE(start + 8)));
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

/** What a browser sends for one dropped file, as it arrives: 64 kB at a time. */
export function sending(file: string): Request {
  const border = 'jute-grid-bench';
  function* body() {
    yield Buffer.from(
      `--${border}\r\nContent-Disposition: form-data; name="files"; ` +
        'filename="million.glb"\r\nContent-Type: model/gltf-binary\r\n\r\n',
    );
    const from = openSync(file, 'r');
    for (;;) {
      const chunk = Buffer.allocUnsafe(1 << 16);
      const length = readSync(from, chunk);
      if (!length) break;
      yield chunk.subarray(0, length);
    }
    closeSync(from);
    yield Buffer.from(`\r\n--${border}--\r\n`);
  }
  return new Request('http://bench/', {
    method: 'POST',
    headers: { 'content-type': `multipart/form-data; boundary=${border}` },
    body: Readable.toWeb(Readable.from(body(), { objectMode: false })) as ReadableStream,
    duplex: 'half',
  } as RequestInit);
}

/** All an import does from the first byte sent to surfaces stored: the server's own functions, on one thread. */
export async function fullImport(file: string): Promise<string> {
  const upload = await receiveUpload(sending(file));
  const { meshes } = await prepareForStore(upload, { northDeg: 0 });
  const blob = await putBlob(meshes);
  await dropUpload(upload.id);
  return blob;
}

export async function benchImport(rows: Rows): Promise<void> {
  const folder = mkdtempSync(path.join(tmpdir(), 'jute-grid-bench-'));
  process.env.JUTE_GRID_DATA = path.join(folder, 'data');
  const file = path.join(folder, 'million.glb');
  writeFileSync(file, await million());
  try {
    const library = await time(() => libraryImport(file));
    let stored = '';
    const {
      taken: full,
      base: lean,
      ratio,
    } = await compare(
      async () => (stored = await fullImport(file)),
      () => leanImport(file),
      // so that the next run writes it again
      { after: () => removeBlob(stored, Infinity, () => {}) },
    );
    const name = 'import of 1,000,000 triangles in 500 parts, upload to surfaces stored';
    rows.push({
      name,
      value: full,
      unit: 'ms',
      against: `writing what is sent, parse + weld + adjacency, ${lean.toFixed(0)} ms`,
      ratio,
      budget: 1.8,
    });
    rows.push({
      name,
      value: full,
      unit: 'ms',
      against: `glTF-Transform's parse and weld, and adjacency, ${library.toFixed(0)} ms`,
      ratio: full / library,
      budget: null,
    });
    const [idle, leanPeak, fullPeak] = ['idle', 'lean', 'full'].map((what) => peakMb(what, file));
    rows.push({
      name: 'the same, peak memory above an idle process',
      value: fullPeak - idle,
      unit: 'MB',
      against: `writing what is sent, parse + weld + adjacency, ${leanPeak - idle} MB`,
      ratio: (fullPeak - idle) / (leanPeak - idle),
      budget: 1.5,
    });
  } finally {
    rmSync(folder, { recursive: true });
  }
}
