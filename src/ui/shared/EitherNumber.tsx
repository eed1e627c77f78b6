'use client';

import { useDecimalSign } from './decimalSign';

/** A number that can be read in two ways is asked about once; the answer is the user's habit from then on. */
export function EitherNumber({
  either,
  write,
  onChosen,
}: {
  either: [point: number, comma: number];
  write: (value: number) => string;
  onChosen: (value: number) => void;
}) {
  const set = useDecimalSign((s) => s.set);
  const [point, comma] = either;
  return (
    <span className="mt-0.5 flex gap-1">
      {(
        [
          [point, '.'],
          [comma, ','],
        ] as const
      ).map(([value, sign]) => (
        <button
          key={sign}
          type="button"
          className="tool tool-line h-5 px-1 text-2xs"
          // the field must not read it once more on losing the focus
          onMouseDown={(e) => e.preventDefault()}
          onClick={() => {
            set(sign);
            onChosen(value);
          }}
        >
          {write(value)}
        </button>
      ))}
    </span>
  );
}
