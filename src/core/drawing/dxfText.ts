import { drawingFault } from './types';

/** A group of a DXF: its number, which says what the value is, and the value as it stands. */
export type Group = readonly [code: number, value: string];

/** What a 0 begins: an entity, a block, a layer, with its groups. */
export interface DxfRecord {
  type: string;
  groups: Group[];
}

/** The sections of a DXF that drawings are made of. */
export interface DxfText {
  /** $INSUNITS, or null where the header says none. */
  units: number | null;
  layers: Map<string, { off: boolean }>;
  blocks: Map<string, { head: DxfRecord; entities: DxfRecord[] }>;
  entities: DxfRecord[];
}

/** The first value with this number, or null. */
export const textOf = ({ groups }: DxfRecord, code: number): string | null =>
  groups.find(([c]) => c === code)?.[1] ?? null;

/** The first value with this number; NaN where it is no number, `otherwise` where there is none. */
export function numberOf(record: DxfRecord, code: number, otherwise: number): number {
  const text = textOf(record, code);
  return text === null ? otherwise : parseFloat(text);
}

/**
 * A DXF's text as records, read line by line: what is wrong with it costs no more than what is right.
 * @throws ImportError naming the line that is no group's number, or saying that the end is missing
 */
export function readDxfText(text: string, file: string): DxfText {
  const lines = text.split(/\r\n|\n|\r/);
  const read: DxfText = { units: null, layers: new Map(), blocks: new Map(), entities: [] };
  const fault = (why: string) => drawingFault(file, `it is no DXF that can be read (${why})`);
  let section = '';
  let block: { head: DxfRecord; entities: DxfRecord[] } | null = null;
  let record: DxfRecord | null = null;
  let variable = '';

  const begin = (type: string) => {
    record = { type, groups: [] };
    if (section === 'ENTITIES') read.entities.push(record);
    else if (section !== 'BLOCKS') return;
    else if (type === 'BLOCK') block = { head: record, entities: [] };
    else if (type !== 'ENDBLK') block?.entities.push(record);
  };
  // a block or layer is known by its name once all of it is read
  const end = () => {
    if (!record) return;
    if (section === 'BLOCKS' && record.type === 'ENDBLK' && block) {
      const name = textOf(block.head, 2);
      if (name !== null) read.blocks.set(name, block);
      block = null;
    }
    const layer = section === 'TABLES' && record.type === 'LAYER' && textOf(record, 2);
    // frozen, frozen in new views, or a colour below nothing
    if (layer) read.layers.set(layer, { off: (numberOf(record, 70, 0) & 3) !== 0 || numberOf(record, 62, 0) < 0 });
  };

  for (let at = 0; at + 1 < lines.length; at += 2) {
    const number = lines[at].trim();
    if (!/^-?\d{1,4}$/.test(number))
      throw fault(`line ${at + 1}: a group's number is wanted, not “${number.slice(0, 40)}”`);
    const [code, value] = [Number(number), lines[at + 1].trim()];
    if (code === 0) {
      end();
      record = null;
      if (value === 'EOF') return read;
      if (value === 'SECTION' || value === 'ENDSEC') [section, block] = ['', null];
      else begin(value);
    } else if (record) (record as DxfRecord).groups.push([code, value]);
    else if (code === 2 && !section) section = value;
    else if (code === 9) variable = value;
    else if (code === 70 && section === 'HEADER' && variable === '$INSUNITS') read.units = parseInt(value, 10);
  }
  throw fault('it ends before its EOF: a part of it is missing');
}
