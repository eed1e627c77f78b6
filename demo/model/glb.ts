import { Document, type Node, WebIO } from '@gltf-transform/core';
import type { DraftMesh } from './build';
import { buildPellowLanding } from './pellowLanding';

/** sRGB colours of the model's slots, as a designer would hand it over: plain tones, no pictures. */
const SLOTS: Record<string, string> = {
  'floor boards': '#b99a73',
  'lobby tile': '#b07a5e',
  mat: '#4a4540',
  plaster: '#e4ddcf',
  roof: '#8f9089',
  brick: '#a8634e',
  'brick ring': '#93513f',
  painted: '#b9c3bb',
  tile: '#5d8f8a',
  stone: '#cfc4ae',
  slate: '#6a7278',
  'door boards': '#5f7480',
  metal: '#a7a9a8',
  'printed band': '#d8cfae',
  wood: '#7d5a40',
  webbing: '#b8935c',
  cloth: '#5c6b7d',
  lamp: '#fff0d2',
  notice: '#efe7d3',
};

const linear = (v: number) => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4);

/** The demo model as a GLB, the same bytes every time. */
export async function writePellowLanding(): Promise<Uint8Array> {
  return writeDrafts('Pellow Landing', buildPellowLanding());
}

export async function writeDrafts(name: string, parts: DraftMesh[]): Promise<Uint8Array> {
  const document = new Document();
  const buffer = document.createBuffer();
  const scene = document.createScene(name);
  const root = document.createNode(name);
  scene.addChild(root);
  const groups = new Map<string, Node>();
  const materials = new Map(
    Object.entries(SLOTS).map(([slot, hex]) => {
      const [r, g, b] = [1, 3, 5].map((i) => linear(parseInt(hex.slice(i, i + 2), 16) / 255));
      return [
        slot,
        document.createMaterial(slot).setBaseColorFactor([r, g, b, 1]).setRoughnessFactor(0.85).setMetallicFactor(0),
      ];
    }),
  );
  for (const part of parts) {
    const mesh = document.createMesh(part.name);
    for (const { slot, positions, normals } of part.faces) {
      const primitive = document
        .createPrimitive()
        .setMaterial(materials.get(slot) ?? null)
        .setAttribute(
          'POSITION',
          document.createAccessor().setType('VEC3').setArray(Float32Array.from(positions)).setBuffer(buffer),
        );
      const made = normals ?? flatNormals(positions);
      primitive.setAttribute(
        'NORMAL',
        document.createAccessor().setType('VEC3').setArray(Float32Array.from(made)).setBuffer(buffer),
      );
      mesh.addPrimitive(primitive);
    }
    const group = part.path[0] ?? name;
    let above = groups.get(group);
    if (!above) {
      groups.set(group, (above = document.createNode(group)));
      root.addChild(above);
    }
    above.addChild(document.createNode(part.name).setMesh(mesh));
  }
  return new WebIO().writeBinary(document);
}

function flatNormals(p: number[]): number[] {
  const out: number[] = [];
  for (let i = 0; i < p.length; i += 9) {
    const [ux, uy, uz] = [p[i + 3] - p[i], p[i + 4] - p[i + 1], p[i + 5] - p[i + 2]];
    const [vx, vy, vz] = [p[i + 6] - p[i], p[i + 7] - p[i + 1], p[i + 8] - p[i + 2]];
    const n = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
    const l = Math.hypot(...n) || 1;
    for (let k = 0; k < 3; k++) out.push(n[0] / l, n[1] / l, n[2] / l);
  }
  return out;
}
