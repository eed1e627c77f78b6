import { drawingFault } from './types';
import { makeModule, type MadeModule, type ModuleChoice } from './makeModule';
import { readDxf } from './readDxf';
import { readSvg } from './readSvg';

/** The text of a drawing, and what is decided of it. */
export interface DrawingTask {
  file: string;
  text: string;
  choice?: ModuleChoice;
}

/** A module of a drawing, and whether the drawing says how large it is. */
export interface ReadDrawing extends MadeModule {
  sized: boolean;
}

/**
 * Reads an SVG or a DXF, told apart by what is in it, and makes a module of it.
 * @throws ImportError where it cannot be read
 */
export function readDrawing({ file, text, choice }: DrawingTask): ReadDrawing {
  const plain = text.replace(/^\uFEFF/, '').trimStart();
  if (!plain) throw drawingFault(file, 'there is nothing in it');
  const drawing = plain.startsWith('<') ? readSvg(plain, file) : readDxf(plain, file);
  return { ...makeModule(drawing, choice), sized: drawing.sized };
}
