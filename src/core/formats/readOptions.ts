/** What readers can be told. */
export interface ReadOptions {
  /** Which scene to read; the file's default otherwise. */
  scene?: number;
  /** Decoders by the names the reader library asks for (`draco3d.decoder`, `meshopt.decoder`). */
  decoders?: Record<string, unknown>;
  /** More triangles than this are refused. */
  maxTriangles?: number;
}

export const READ_DEFAULTS = { maxTriangles: 10_000_000 } satisfies ReadOptions;
