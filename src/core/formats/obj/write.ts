import { linearOfHex } from '../../colour/srgb';
import type { ExportMaterial, ExportPicture, ExportScene } from '../exportScene';

const METRES = 0.001;

/**
 * A dressed scene as OBJ with MTL and pictures, keyed by file name: metres, y up, one object for each part, one group
 * for each surface. Coordinates are final (OBJ has no texture transform); tones of pieces stand behind the positions,
 * as many programs read them. Pictures that are packed for glTF (occlusion, roughness, metallic) are left out.
 */
export function writeObj(scene: ExportScene, stem: string): Record<string, Uint8Array> {
  const files: Record<string, Uint8Array> = {};
  const names = new Map<number | string, string>();
  const mtl: string[] = [];
  const taken = new Set<string>();

  const picture = (p: ExportPicture, what: string): string => {
    const name = `${what}-${p.key.slice(0, 8)}.${p.mime === 'image/png' ? 'png' : 'jpg'}`;
    files[name] = p.bytes;
    return name;
  };
  const nameOf = (which: number | string): string => {
    const known = names.get(which);
    if (known) return known;
    const source: ExportMaterial | null = typeof which === 'number' ? scene.materials[which] : null;
    const base = source ? plain(source.material.name) : `plain_${String(which).slice(1)}`;
    let name = base;
    for (let n = 2; taken.has(name); n++) name = `${base}_${n}`;
    taken.add(name);
    names.set(which, name);
    const colour = linearOfHex(source ? source.material.colour : (which as string));
    mtl.push(
      `newmtl ${name}`,
      `Kd ${(source?.pictures.baseColour ? [1, 1, 1] : colour).map(short).join(' ')}`,
      'Ks 0 0 0',
      'illum 2',
    );
    if (source) {
      const { baseColour, normal, emission } = source.pictures;
      if (baseColour) mtl.push(`map_Kd ${picture(baseColour, `${base}-base-colour`)}`);
      if (baseColour && source.material.maps.opacity)
        mtl.push(`map_d -imfchan m ${picture(baseColour, `${base}-base-colour`)}`);
      if (normal) mtl.push(`norm ${picture(normal, `${base}-normal`)}`);
      if (emission) mtl.push(`Ke 1 1 1`, `map_Ke ${picture(emission, `${base}-emission`)}`);
      mtl.push(`Pr ${short(source.look.roughness)}`, `Pm ${short(source.look.metallic)}`);
    }
    mtl.push('');
    return name;
  };

  const out: string[] = [`# ${plain(scene.name)}, metres, y up`, `mtllib ${stem}.mtl`];
  let vertices = 0;
  let coordinates = 0;
  for (const part of scene.parts) {
    out.push(`o ${plain(part.name)}`);
    for (const { name, dressed, material } of part.surfaces) {
      const { positions: p, normals: n, uvs, tones, indices } = dressed;
      out.push(`g ${plain(part.name)}_${plain(name)}`, `usemtl ${nameOf(material)}`);
      for (let v = 0; v < p.length / 3; v++) {
        const place = [0, 1, 2].map((c) => precise((p[v * 3 + c] + part.origin[c]) * METRES)).join(' ');
        const tone = tones?.length
          ? ` ${short(tones[v * 3])} ${short(tones[v * 3 + 1])} ${short(tones[v * 3 + 2])}`
          : '';
        out.push(`v ${place}${tone}`);
      }
      for (let v = 0; v < n.length; v += 3) out.push(`vn ${short(n[v])} ${short(n[v + 1])} ${short(n[v + 2])}`);
      for (let v = 0; v < uvs.length; v += 2) out.push(`vt ${precise(uvs[v])} ${precise(uvs[v + 1])}`);
      const corner = (i: number) => `${vertices + i + 1}/${uvs.length ? coordinates + i + 1 : ''}/${vertices + i + 1}`;
      for (let i = 0; i < indices.length; i += 3) {
        out.push(`f ${corner(indices[i])} ${corner(indices[i + 1])} ${corner(indices[i + 2])}`);
      }
      vertices += p.length / 3;
      coordinates += uvs.length / 2;
    }
  }
  const encode = (lines: string[]) => new TextEncoder().encode(`${lines.join('\n')}\n`);
  files[`${stem}.obj`] = encode(out);
  files[`${stem}.mtl`] = encode(mtl);
  return files;
}

/** To a micrometre. */
const precise = (v: number) => String(Math.round(v * 1e6) / 1e6);
const short = (v: number) => String(Math.round(v * 1e4) / 1e4);
const plain = (name: string) => name.replace(/[^\p{L}\p{N}]+/gu, '_').replace(/^_|_$/g, '') || 'part';
