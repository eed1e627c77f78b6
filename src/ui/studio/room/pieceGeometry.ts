import { BufferAttribute, BufferGeometry } from 'three';
import type { PieceBuffers } from '@/core/dress/pieceStore';

/** Cells with what their shader needs to draw the pieces in them. */
export function geometryOfPieces(b: PieceBuffers): BufferGeometry {
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(b.positions, 3));
  geometry.setAttribute('normal', new BufferAttribute(b.normals, 4, true));
  geometry.setAttribute('uv', new BufferAttribute(b.uvs, 2));
  geometry.setAttribute('aLocal', new BufferAttribute(b.local, 2));
  if (b.sides.length) geometry.setAttribute('aSide', new BufferAttribute(b.sides, 4));
  else geometry.setAttribute('aHalf', new BufferAttribute(b.half, 2));
  geometry.setAttribute('color', new BufferAttribute(b.tones, 4, true));
  if (b.places.length) {
    geometry.setAttribute('uv1', new BufferAttribute(b.places, 2));
    geometry.setAttribute('aPlace', geometry.getAttribute('uv1'));
    geometry.setAttribute('aWorn', geometry.getAttribute('uv1'));
  }
  geometry.setIndex(new BufferAttribute(b.indices, 1));
  return geometry;
}
