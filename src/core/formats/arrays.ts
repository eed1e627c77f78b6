/**
 * Typed arrays in one file: “JGA1”, length of a JSON header, the header, then the arrays, each on an 8-byte border.
 * The header is `{ meta, arrays: [{ name, type, offset, length }] }`, so that any program can read it.
 */

type AnyArray = Float32Array | Float64Array | Uint32Array | Uint16Array | Uint8Array | Int32Array;

const TYPES = { Float32Array, Float64Array, Uint32Array, Uint16Array, Uint8Array, Int32Array };
type TypeName = keyof typeof TYPES;

interface Entry {
  name: string;
  type: TypeName;
  /** Bytes from the end of the header. */
  offset: number;
  /** Elements. */
  length: number;
}

const MAGIC = 0x3141474a; // “JGA1”
const align = (n: number) => (n + 7) & ~7;

/** The file as pieces to be written one after the other. The arrays are not copied: they must not change until then. */
export function pieceArrays(meta: unknown, arrays: Record<string, AnyArray>): Uint8Array[] {
  const entries: Entry[] = [];
  const body: Uint8Array[] = [];
  let offset = 0;
  for (const [name, array] of Object.entries(arrays)) {
    entries.push({ name, type: array.constructor.name as TypeName, offset, length: array.length });
    body.push(new Uint8Array(array.buffer, array.byteOffset, array.byteLength));
    const end = offset + array.byteLength;
    offset = align(end);
    if (offset > end) body.push(new Uint8Array(offset - end));
  }
  const header = new TextEncoder().encode(JSON.stringify({ meta, arrays: entries }));
  const head = new Uint8Array(align(8 + header.length));
  const view = new DataView(head.buffer);
  view.setUint32(0, MAGIC, true);
  view.setUint32(4, header.length, true);
  head.set(header, 8);
  return [head, ...body];
}

/**
 * Views into `bytes` where it is aligned, copies where it is not.
 * @throws Error when the bytes are not such a file
 */
export function unpackArrays<Meta>(bytes: Uint8Array): { meta: Meta; arrays: Record<string, AnyArray> } {
  const aligned = bytes.byteOffset % 8 === 0 ? bytes : bytes.slice();
  const view = new DataView(aligned.buffer, aligned.byteOffset, aligned.byteLength);
  if (aligned.length < 8 || view.getUint32(0, true) !== MAGIC) throw new Error('this is not a file of arrays');
  const headerLength = view.getUint32(4, true);
  const header = JSON.parse(new TextDecoder().decode(aligned.subarray(8, 8 + headerLength))) as {
    meta: Meta;
    arrays: Entry[];
  };
  const start = aligned.byteOffset + align(8 + headerLength);
  const arrays: Record<string, AnyArray> = {};
  for (const { name, type, offset, length } of header.arrays) {
    arrays[name] = new TYPES[type](aligned.buffer as ArrayBuffer, start + offset, length);
  }
  return { meta: header.meta, arrays };
}
