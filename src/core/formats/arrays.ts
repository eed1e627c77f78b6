/**
 * Typed arrays in one file: “JGA1”, length of a JSON header, the header, then the arrays, each on an 8-byte border.
 * The header is `{ meta, arrays: [{ name, type, offset, length }] }`, so that any program can read it.
 */

type AnyArray = Float32Array | Float64Array | Uint32Array | Uint16Array | Uint8Array | Int32Array;

const TYPES = { Float32Array, Float64Array, Uint32Array, Uint16Array, Uint8Array, Int32Array };
type TypeName = keyof typeof TYPES;

export interface Entry {
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

/** Reads so many bytes from a place in a file. */
export type ReadAt = (offset: number, length: number) => Promise<Uint8Array>;

interface Header<Meta> {
  meta: Meta;
  arrays: Entry[];
}
const LENGTHS = 8;

/** @throws Error when the bytes do not begin such a file */
function headerLength(bytes: Uint8Array): number {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length < LENGTHS || view.getUint32(0, true) !== MAGIC) throw new Error('this is not a file of arrays');
  return view.getUint32(4, true);
}
const headerOf = <Meta>(bytes: Uint8Array) => JSON.parse(new TextDecoder().decode(bytes)) as Header<Meta>;
const onBorder = (bytes: Uint8Array) => (bytes.byteOffset % 8 === 0 ? bytes : bytes.slice());

/** @param before where the bytes begin, counted from the end of the header */
function viewArrays(entries: Entry[], bytes: Uint8Array, before: number): Record<string, AnyArray> {
  const arrays: Record<string, AnyArray> = {};
  for (const { name, type, offset, length } of entries)
    arrays[name] = new TYPES[type](bytes.buffer as ArrayBuffer, bytes.byteOffset + offset - before, length);
  return arrays;
}

/**
 * Views into `bytes` where it is aligned, copies where it is not.
 * @throws Error when the bytes are not such a file
 */
export function unpackArrays<Meta>(bytes: Uint8Array): { meta: Meta; arrays: Record<string, AnyArray> } {
  const aligned = onBorder(bytes);
  const length = headerLength(aligned);
  const { meta, arrays } = headerOf<Meta>(aligned.subarray(LENGTHS, LENGTHS + length));
  return { meta, arrays: viewArrays(arrays, aligned.subarray(align(LENGTHS + length)), 0) };
}

/** A file of which only the header has been read. */
export interface ArrayFile<Meta> {
  meta: Meta;
  entries: Entry[];
  /** Where the arrays begin, bytes. */
  start: number;
}

/**
 * Reads the header alone.
 * @throws Error when the bytes are not such a file
 */
export async function openArrays<Meta>(read: ReadAt): Promise<ArrayFile<Meta>> {
  const length = headerLength(await read(0, LENGTHS));
  const { meta, arrays } = headerOf<Meta>(await read(LENGTHS, length));
  return { meta, entries: arrays, start: align(LENGTHS + length) };
}

/** Some arrays of a file, which lie one behind the other. */
export async function readArrays(
  read: ReadAt,
  { start }: Pick<ArrayFile<unknown>, 'start'>,
  entries: Entry[],
): Promise<Record<string, AnyArray>> {
  const from = entries[0].offset;
  const last = entries[entries.length - 1];
  const bytes = await read(start + from, last.offset + last.length * TYPES[last.type].BYTES_PER_ELEMENT - from);
  return viewArrays(entries, onBorder(bytes), from);
}
