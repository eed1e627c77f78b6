/** A pixel to the millimetre is what picture libraries write where they know nothing. */
const UNSTATED = 25.4;

/**
 * Resolution as a file states it, pixels per inch: what a decoder says is rounded to whole numbers, and a scan of
 * 4000 pixels to the metre is 101.6, not 102.
 * @returns null where it states none, or none of a unit
 */
export function exactDensity(bytes: Uint8Array, format: string): number | null {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  try {
    const density =
      format === 'png' ? ofPng(view) : format === 'jpeg' ? ofJpeg(view) : format === 'tiff' ? ofTiff(view, 0) : null;
    const states = density !== null && density > 1 && Number.isFinite(density) && Math.abs(density - UNSTATED) > 0.01;
    return states ? density : null;
  } catch {
    // cut off: the decoder says what is wrong with it
    return null;
  }
}

const PHYS = 0x70485973;
const IDAT = 0x49444154;

/** PNG, pHYs: pixels to the metre. https://www.w3.org/TR/png/#11pHYs */
function ofPng(view: DataView): number | null {
  for (let at = 8; ;) {
    const [length, type] = [view.getUint32(at), view.getUint32(at + 4)];
    if (type === PHYS) return view.getUint8(at + 16) === 1 ? view.getUint32(at + 8) * 0.0254 : null;
    if (type === IDAT) return null;
    at += 12 + length;
  }
}

/** JPEG: EXIF where there is one, else JFIF (dots to the inch or to the centimetre). */
function ofJpeg(view: DataView): number | null {
  let jfif: number | null = null;
  for (let at = 2; view.getUint8(at) === 0xff;) {
    const [marker, length] = [view.getUint8(at + 1), view.getUint16(at + 2)];
    if (marker === 0xda) break;
    const name = view.getUint32(at + 4);
    if (marker === 0xe1 && name === 0x45786966) {
      const exif = ofTiff(view, at + 10);
      if (exif !== null) return exif;
    }
    if (marker === 0xe0 && name === 0x4a464946) {
      const unit = view.getUint8(at + 11);
      if (unit) jfif = view.getUint16(at + 12) * (unit === 2 ? 2.54 : 1);
    }
    at += 2 + length;
  }
  return jfif;
}

/** TIFF, also within EXIF: XResolution as a fraction, of inches or centimetres. */
function ofTiff(view: DataView, start: number): number | null {
  const little = view.getUint16(start) === 0x4949;
  const short = (at: number) => view.getUint16(at, little);
  const long = (at: number) => view.getUint32(at, little);
  const directory = start + long(start + 4);
  let [resolution, unit] = [null as number | null, 2];
  for (let n = 0, at = directory + 2; n < short(directory); n++, at += 12) {
    const tag = short(at);
    if (tag === 282) {
      const value = start + long(at + 8);
      resolution = long(value) / long(value + 4);
    }
    if (tag === 296) unit = short(at + 8);
  }
  return resolution === null || unit === 1 ? null : resolution * (unit === 3 ? 2.54 : 1);
}
