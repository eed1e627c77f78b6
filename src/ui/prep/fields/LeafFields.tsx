'use client';

import { toast } from 'sonner';
import { type Leaves, MOST_PLACES } from '@/core/material/schema';
import { ValueField } from '../../shared/ValueField';
import { usePrep } from '../prepStore';
import { FindPieces } from './FindPieces';

const NONE: Leaves = { columns: 1, rows: 1, insetMm: 0 };
/** Arrises of what was photographed are left off by this. */
const FOUND_INSET = 1;

/**
 * Many pieces in one picture: so many columns and rows, each with an inset, or as they were found by their joints. They
 * are set right on the light table.
 * @param props.composed those the picture was composed of, which hold unless others are set
 */
export function LeafFields({ composed }: { composed: Leaves | null }) {
  const { prep, change } = usePrep();
  const leaves = prep!.leaves ?? composed ?? NONE;
  const { places } = leaves;
  const put = (next: Leaves, gesture?: string) =>
    change({ leaves: next.places || next.columns * next.rows > 1 ? next : null }, gesture);
  return (
    <>
      {places ? <Found leaves={leaves} put={put} /> : <Grid leaves={leaves} put={put} />}
      <div className="flex flex-wrap gap-1">
        <FindPieces
          title="Boards, bricks or tiles in the picture, by their joints: each becomes a leaf"
          onFound={(found) => {
            put({ ...leaves, insetMm: leaves.insetMm || FOUND_INSET, places: found.slice(0, MOST_PLACES) });
            if (found.length > MOST_PLACES)
              toast.warning(`The first ${MOST_PLACES} of ${found.length} pieces are leaves now`, {
                description: 'A material has no more. Crop the picture to have others among them.',
                duration: 12_000,
              });
          }}
        />
        {composed && prep!.leaves && (
          <button
            type="button"
            className="tool h-[22px] px-1 text-2xs"
            title="The boards of the Compose step instead"
            onClick={() => change({ leaves: null })}
          >
            As composed
          </button>
        )}
      </div>
    </>
  );
}

interface Of {
  leaves: Leaves;
  put: (leaves: Leaves, gesture?: string) => void;
}

const Inset = ({ leaves, put, disabled }: Of & { disabled?: boolean }) => (
  <ValueField
    label="Inset"
    kind="length"
    unit="mm"
    min={0}
    max={1000}
    disabled={disabled}
    value={leaves.insetMm}
    onChange={(insetMm, g) => put({ ...leaves, insetMm }, g)}
  />
);

function Grid({ leaves, put }: Of) {
  // other counts begin with even lines again
  const count = (label: string, key: 'columns' | 'rows', lines: 'columnLines' | 'rowLines') => (
    <ValueField
      label={label}
      kind="number"
      decimals={0}
      min={1}
      max={64}
      value={leaves[key]}
      onChange={(v, g) =>
        Math.round(v) !== leaves[key] && put({ ...leaves, [key]: Math.round(v), [lines]: undefined }, g)
      }
    />
  );
  return (
    <>
      <div className="grid grid-cols-3 gap-1">
        {count('Leaves', 'columns', 'columnLines')}
        {count('by', 'rows', 'rowLines')}
        <Inset leaves={leaves} put={put} disabled={leaves.columns * leaves.rows === 1} />
      </div>
      {(leaves.columnLines ?? leaves.rowLines) && (
        <button
          type="button"
          className="tool h-[20px] px-1 text-2xs"
          onClick={() => put({ ...leaves, columnLines: undefined, rowLines: undefined })}
        >
          Even lines
        </button>
      )}
    </>
  );
}

function Found({ leaves, put }: Of) {
  const places = leaves.places!;
  const add = () => put({ ...leaves, places: [...places, { x: 0.4, y: 0.4, width: 0.2, height: 0.2 }] });
  return (
    <>
      <div className="grid grid-cols-[1fr_1fr] items-end gap-1">
        <output className="num pb-1 text-2xs" data-testid="leaf-count">
          {places.length} {places.length === 1 ? 'leaf' : 'leaves'}
        </output>
        <Inset leaves={leaves} put={put} />
      </div>
      <div className="flex flex-wrap gap-1">
        <button
          type="button"
          className="tool h-[20px] px-1 text-2xs"
          disabled={places.length >= MOST_PLACES}
          title="One more, in the middle of the picture; drag its corners on the light table"
          onClick={add}
        >
          Add a leaf
        </button>
        <button
          type="button"
          className="tool h-[20px] px-1 text-2xs"
          title="Columns and rows instead"
          onClick={() => put({ ...leaves, places: undefined })}
        >
          Columns and rows
        </button>
      </div>
    </>
  );
}
