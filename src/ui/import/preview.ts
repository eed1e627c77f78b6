import type { Remark } from '@/core/mesh/types';
import type { SizeEvidence } from '@/core/mesh/unitEvidence';

/** What the server found in an upload. */
export interface Preview {
  upload: string;
  name: string;
  file: string;
  format: 'gltf' | 'obj';
  scenes: string[];
  scene: number;
  evidence: SizeEvidence;
  remarks: Remark[];
  missingPictures: string[];
  parts: number;
  surfaces: number;
  triangles: number;
  slots: { name: string; pictures: number }[];
}

/** What is to be made of it. */
export interface Choice {
  scene: number;
  unitMm: number;
  upAxis: 'y' | 'z';
}
