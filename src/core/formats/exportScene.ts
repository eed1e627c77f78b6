import type { DressedSurface } from '../dress/dressSurface';
import type { Vec3 } from '../geometry/vec';
import type { Material, Role } from '../material/schema';
import type { FinishInForce } from '../specification/finish';

/** A picture ready to go into a file: PNG or JPEG, packed as glTF wants. */
export interface ExportPicture {
  /** Equal keys share one picture in the file. */
  key: string;
  bytes: Uint8Array;
  mime: 'image/png' | 'image/jpeg';
}

export interface ExportMaterial {
  material: Material;
  look: FinishInForce;
  widthMm: number;
  heightMm: number;
  /** Pieces of it have tones: its colour is this much brighter, and their gains darken it again. */
  brightened?: number;
  /** Maps that lie on the surface as a whole while pieces move the others: they take the second coordinates. */
  still?: readonly Role[];
  /** It lies over another, see-through by the alpha of its colours, and is not cut where that is low. */
  blended?: boolean;
  pictures: {
    /** With opacity as alpha where the material has some. */
    baseColour?: ExportPicture;
    normal?: ExportPicture;
    /** Occlusion, roughness, metallic in red, green, blue; the finish's shift is in it. */
    packed?: ExportPicture;
    hasOcclusion?: boolean;
    /** Grey, for formats that pack none; the finish’s shift is in the roughness. */
    roughness?: ExportPicture;
    metallic?: ExportPicture;
    emission?: ExportPicture;
  };
}

export interface ExportSurface {
  name: string;
  dressed: DressedSurface;
  /**
   * Where copies of it stand: xyz for each, mm relative to the part's origin; absent where it stands once, at that
   * origin. Only a format that `shares` is given any.
   */
  stands?: Float32Array;
  /** Index into `materials`, or a plain colour (sRGB hex) for what is bare. */
  material: number | string;
}

export interface ExportPart {
  name: string;
  path: string[];
  /** World mm; vertices are relative to it. */
  origin: Vec3;
  /** Where the part's node stands in the file, world mm. */
  pivot: Vec3;
  surfaces: ExportSurface[];
}

/** What all parts of a hand-over share; materials may be added until the end. */
export interface ExportHead {
  name: string;
  materials: readonly ExportMaterial[];
}

/** A whole scene, where it is small enough to be held at once. */
export interface ExportScene extends ExportHead {
  parts: ExportPart[];
  materials: ExportMaterial[];
}

/** A file that is written from its beginning to its end. */
export interface FileOut {
  readonly length: number;
  write(bytes: Uint8Array): Promise<void>;
}

/** Where the files of a hand-over go. */
export interface FolderOut {
  create(name: string): Promise<FileOut>;
  /** Moves all of one file to the end of another; the first is then gone. */
  append(to: FileOut, from: FileOut): Promise<void>;
}

/** A format cannot hold so much in one file. */
export class TooLargeError extends Error {}

/** Takes a scene part by part; nothing of a part is held when it has been put. */
export interface SceneOut {
  put(part: ExportPart): Promise<void>;
  finish(): Promise<void>;
}
