import {
  BufferAttribute,
  type BufferGeometry,
  DataTexture,
  LinearFilter,
  LinearMipmapLinearFilter,
  type Material as ThreeMaterial,
  Matrix3,
  SRGBColorSpace,
} from 'three';
import type { ShownWear } from '@/workers/sheet.worker';
import { patchShader } from './patchShader';
import type { ShownMap } from './settings';

/** Wear over a region, on the graphics card. */
export interface Worn {
  key: string;
  colour: DataTexture;
  relief: DataTexture;
  isRaised: boolean;
  /** From the sheet, mm, to the pictures. */
  toPicture: Matrix3;
}

/** Wear as a material draws it. */
export interface WearShading {
  worn: Worn;
  /** From the places its geometry has to the pictures. */
  toPicture: Matrix3;
}

const texture = (data: Uint8Array<ArrayBuffer>, width: number, height: number): DataTexture => {
  const made = new DataTexture(data, width, height);
  made.magFilter = LinearFilter;
  made.minFilter = LinearMipmapLinearFilter;
  made.generateMipmaps = true;
  made.anisotropy = 4;
  made.needsUpdate = true;
  return made;
};

/** @returns null where what came is not for this geometry, or nothing of it is to be seen */
export function makeWorn(geometry: BufferGeometry, key: string, shown: ShownWear | null): Worn | null {
  if (!shown) return null;
  const { bounds, width, height, pixelMm, isRaised, places } = shown;
  if (places.length / 2 !== geometry.getAttribute('position').count) return null;
  geometry.setAttribute('aWorn', new BufferAttribute(places, 2));
  const colour = texture(shown.colour, width, height);
  colour.colorSpace = SRGBColorSpace;
  const [a, b] = [1 / (width * pixelMm), 1 / (height * pixelMm)];
  const toPicture = new Matrix3().set(a, 0, -bounds.minX * a, 0, b, -bounds.minY * b, 0, 0, 1);
  return { key, colour, relief: texture(shown.relief, width, height), isRaised, toPicture };
}

export function dropWorn(worn: Worn | null): void {
  worn?.colour.dispose();
  worn?.relief.dispose();
}

/** @param toSheet from the places of pieces to the sheet; absent of a surface, whose places are the sheet's */
export function wearShading(worn: Worn, toSheet?: readonly number[]): WearShading {
  if (!toSheet) return { worn, toPicture: worn.toPicture };
  const [a, b, c, d, x, y] = toSheet;
  // what the layout's frame turns one way, its transpose turns back
  const back = new Matrix3().set(a, c, x, b, d, y, 0, 0, 1);
  return { worn, toPicture: worn.toPicture.clone().multiply(back) };
}

/** What of wear is seen where a map is looked at alone; null where it has no say. */
function partSeen(shown: ShownMap): 'colour' | 'roughness' | 'relief' | null {
  if (shown === 'all' || shown === 'baseColour' || shown === 'wear') return 'colour';
  return shown === 'roughness' || shown === 'relief' ? shown : null;
}

/** Lays wear over what a material draws: over pieces and joints alike, under the light. */
export function drawWear(material: ThreeMaterial, { worn, toPicture }: WearShading, shown: ShownMap): void {
  const seen = partSeen(shown);
  if (!seen) return;
  const bends = worn.isRaised && (shown === 'all' || shown === 'relief');
  patchShader(material, `worn ${seen} ${bends}`, (shader) => {
    Object.assign(shader.uniforms, {
      uWornColour: { value: worn.colour },
      uWornRelief: { value: worn.relief },
      uWornAt: { value: toPicture },
    });
    shader.vertexShader =
      `attribute vec2 aWorn;\nuniform mat3 uWornAt;\nvarying vec2 vWorn;\n${shader.vertexShader}`.replace(
        '#include <begin_vertex>',
        '#include <begin_vertex>\n vWorn = (uWornAt * vec3(aWorn, 1.0)).xy;',
      );
    const over = {
      colour: 'diffuseColor.rgb = mix(diffuseColor.rgb, worn.rgb, worn.a);',
      roughness: 'diffuseColor.rgb = mix(diffuseColor.rgb, vec3(wornRelief.r), worn.a);',
      relief: '',
    }[seen];
    shader.fragmentShader =
      `varying vec2 vWorn;\nuniform sampler2D uWornColour;\nuniform sampler2D uWornRelief;\n${shader.fragmentShader}`
        .replace(
          '#include <alphamap_fragment>',
          `vec4 worn = texture2D(uWornColour, vWorn);
          vec4 wornRelief = texture2D(uWornRelief, vWorn);
          ${over}
          #include <alphamap_fragment>`,
        )
        .replace(
          '#include <normal_fragment_begin>',
          `#ifdef STANDARD
            roughnessFactor = mix(roughnessFactor, wornRelief.r, worn.a);
            metalnessFactor *= 1.0 - worn.a;
          #endif
          #include <normal_fragment_begin>`,
        )
        .replace(
          '#include <lights_physical_fragment>',
          `#include <lights_physical_fragment>
          #ifdef USE_CLEARCOAT
            material.clearcoat *= 1.0 - worn.a;
          #endif`,
        )
        .replace('#include <emissivemap_fragment>', `${bends ? BENT : ''}\n#include <emissivemap_fragment>`);
  });
}

/** A face bends as what lies on it rises: along the sheet's own right and up, found from how its places change. */
const BENT = `{
  vec2 wSlope = wornRelief.gb * 2.0 - 1.0;
  vec3 wx = dFdx(-vViewPosition);
  vec3 wy = dFdy(-vViewPosition);
  vec2 ux = dFdx(vWorn);
  vec2 uy = dFdy(vWorn);
  float wDet = sign(ux.x * uy.y - uy.x * ux.y);
  vec3 wT = normalize((wx * uy.y - wy * ux.y) * wDet);
  vec3 wB = normalize((wy * ux.x - wx * uy.x) * wDet);
  normal = normalize(normal - wT * wSlope.x - wB * wSlope.y);
}`;
