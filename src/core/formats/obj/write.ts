import { linearOfHex } from '../../colour/srgb';
import type { ExportHead, ExportMaterial, ExportPicture, FolderOut, SceneOut } from '../exportScene';

const METRES = 0.001;

/** Lines gathered until they are worth a write. */
const LINES = 20_000;
const encode = (lines: string[]) => new TextEncoder().encode(`${lines.join('\n')}\n`);

/**
 * A dressed scene as OBJ with MTL and pictures, part by part: metres, y up, one object for each part, one group for
 * each surface. Coordinates are final (OBJ has no texture transform); tones of pieces stand behind the positions, as
 * many programs read them. Roughness and metallic go out as pictures of their own; occlusion has no place in MTL.
 */
export async function openObj(head: ExportHead, stem: string, to: FolderOut): Promise<SceneOut> {
  const file = await to.create(`${stem}.obj`);
  const names = new Map<number | string, string>();
  const taken = new Set<string>();
  const pictures = new Set<string>();
  const mtl: string[] = [];
  let lines: string[] = [`# ${plain(head.name)}, metres, y up`, `mtllib ${stem}.mtl`];
  let vertices = 0;
  let coordinates = 0;

  const flush = async () => {
    const full = lines;
    lines = [];
    if (full.length) await file.write(encode(full));
  };
  const picture = async (p: ExportPicture, what: string): Promise<string> => {
    const name = `${what}-${p.key.slice(0, 8)}.${p.mime === 'image/png' ? 'png' : 'jpg'}`;
    if (!pictures.has(name)) await (await to.create(name)).write(p.bytes);
    pictures.add(name);
    return name;
  };
  const nameOf = async (which: number | string): Promise<string> => {
    const known = names.get(which);
    if (known) return known;
    const source: ExportMaterial | null = typeof which === 'number' ? head.materials[which] : null;
    const base = source ? plain(source.material.name) : `plain_${String(which).slice(1)}`;
    let name = base;
    for (let n = 2; taken.has(name); n++) name = `${base}_${n}`;
    taken.add(name);
    names.set(which, name);
    const tint = source?.look.tint ?? [1, 1, 1];
    const own = linearOfHex(source ? source.material.colour : (which as string));
    const colour = (source?.pictures.baseColour ? [1, 1, 1] : own).map((v, c) => v * tint[c]);
    if (source?.material.sizeAssumed) mtl.push(`# nobody has confirmed the size of ${name}`);
    mtl.push(`newmtl ${name}`, `Kd ${colour.map(short).join(' ')}`, 'Ks 0 0 0', 'illum 2');
    if (source) {
      const { baseColour, normal, emission, roughness, metallic, hasOcclusion } = source.pictures;
      if (baseColour) mtl.push(`map_Kd ${await picture(baseColour, `${base}-base-colour`)}`);
      if (baseColour && (source.blended || source.material.maps.opacity))
        mtl.push(`map_d -imfchan m ${await picture(baseColour, `${base}-base-colour`)}`);
      if (normal) mtl.push(`norm ${await picture(normal, `${base}-normal`)}`);
      if (emission) mtl.push(`Ke 1 1 1`, `map_Ke ${await picture(emission, `${base}-emission`)}`);
      const { look } = source;
      mtl.push(`Pr ${short(look.roughness)}`, `Pm ${short(look.metallic)}`);
      if (roughness) mtl.push(`map_Pr ${await picture(roughness, `${base}-roughness`)}`);
      if (metallic) mtl.push(`map_Pm ${await picture(metallic, `${base}-metallic`)}`);
      if (hasOcclusion) mtl.push(`# the occlusion of ${name} has no place in this format`);
      if (look.coat > 0) mtl.push(`Pc ${short(look.coat)}`, `Pcr ${short(look.coatRoughness)}`);
    }
    mtl.push('');
    return name;
  };

  return {
    async put(part) {
      lines.push(`o ${plain(part.name)}`);
      for (const { name, dressed, material } of part.surfaces) {
        const { positions: p, normals: n, uvs, tones, indices } = dressed;
        lines.push(`g ${plain(part.name)}_${plain(name)}`, `usemtl ${await nameOf(material)}`);
        for (let v = 0; v < p.length / 3; v++) {
          const place = [0, 1, 2].map((c) => precise((p[v * 3 + c] + part.origin[c]) * METRES)).join(' ');
          const tone = tones?.length
            ? ` ${short(tones[v * 3])} ${short(tones[v * 3 + 1])} ${short(tones[v * 3 + 2])}`
            : '';
          lines.push(`v ${place}${tone}`);
          if (lines.length > LINES) await flush();
        }
        for (let v = 0; v < n.length; v += 3) {
          lines.push(`vn ${short(n[v])} ${short(n[v + 1])} ${short(n[v + 2])}`);
          if (lines.length > LINES) await flush();
        }
        for (let v = 0; v < uvs.length; v += 2) {
          lines.push(`vt ${precise(uvs[v])} ${precise(uvs[v + 1])}`);
          if (lines.length > LINES) await flush();
        }
        const corner = (i: number) =>
          `${vertices + i + 1}/${uvs.length ? coordinates + i + 1 : ''}/${vertices + i + 1}`;
        for (let i = 0; i < indices.length; i += 3) {
          lines.push(`f ${corner(indices[i])} ${corner(indices[i + 1])} ${corner(indices[i + 2])}`);
          if (lines.length > LINES) await flush();
        }
        vertices += p.length / 3;
        coordinates += uvs.length / 2;
      }
      await flush();
    },
    async finish() {
      await flush();
      await (await to.create(`${stem}.mtl`)).write(encode(mtl));
    },
  };
}

/** To a micrometre. */
const precise = (v: number) => String(Math.round(v * 1e6) / 1e6);
const short = (v: number) => String(Math.round(v * 1e4) / 1e4);
const plain = (name: string) => name.replace(/[^\p{L}\p{N}]+/gu, '_').replace(/^_|_$/g, '') || 'part';
