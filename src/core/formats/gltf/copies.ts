import type { Node } from '@gltf-transform/core';
import type { InstancedMesh } from '@gltf-transform/extensions';
import { compose, type Matrix4, multiply } from '../../geometry/matrix';
import type { Vec3 } from '../../geometry/vec';
import { ImportError } from '../../mesh/types';

/**
 * Where a node's mesh stands: once, or wherever EXT_mesh_gpu_instancing puts it.
 * @throws ImportError naming the node
 */
export function copiesOf(node: Node, matrix: Matrix4, file: string): Matrix4[] {
  const copies = node.getExtension<InstancedMesh>('EXT_mesh_gpu_instancing');
  if (!copies) return [matrix];
  const [move, turn, scale] = ['TRANSLATION', 'ROTATION', 'SCALE'].map((of) => copies.getAttribute(of));
  const count = Math.max(0, ...[move, turn, scale].map((of) => of?.getCount() ?? 0));
  return Array.from({ length: count }, (_, n) => {
    const at = multiply(
      matrix,
      compose(
        (move?.getElement(n, []) ?? [0, 0, 0]) as Vec3,
        (turn?.getElement(n, []) ?? [0, 0, 0, 1]) as [number, number, number, number],
        (scale?.getElement(n, []) ?? [1, 1, 1]) as Vec3,
      ),
    );
    if (at.some((v) => !Number.isFinite(v)))
      throw new ImportError(file, `node “${node.getName()}” has a copy (${n}) whose place is no number`);
    return at;
  });
}
