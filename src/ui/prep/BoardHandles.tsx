'use client';

import type { StepOf } from '@/core/prep/steps/registry';
import { usePrep } from './prepStore';
import { type Handles, PlaceHandles } from './TableHandles';

interface Of extends Handles {
  step: StepOf<'compose'>;
  onChange: (step: StepOf<'compose'>, gesture?: string) => void;
}

const CORNERS = ['Upper left', 'Upper right', 'Lower right', 'Lower left'];

/** What is cut out of the picture: a board is picked by a click, moved by its corners, and removed by Delete. */
export function BoardHandles({ step, toScreen, toShare, onChange }: Of) {
  const { board: picked, pickBoard } = usePrep();
  const { boards } = step;
  const own = picked === null ? undefined : boards[picked];
  const remove = (n: number) => {
    onChange({ ...step, boards: boards.filter((_, k) => k !== n) });
    pickBoard(null);
  };
  return (
    <g>
      {boards.map(({ corners, of }, n) => {
        if (of) return null;
        const at = corners.map(toScreen);
        const [x, y] = [0, 1].map((k) => at.reduce((sum, p) => sum + p[k], 0) / at.length);
        return (
          <g key={n}>
            <polygon
              role="button"
              tabIndex={0}
              aria-label={`Board ${n + 1}`}
              aria-pressed={n === picked}
              className="pointer-events-auto cursor-pointer"
              points={at.map((p) => p.join(',')).join(' ')}
              fill={n === picked ? 'var(--color-secondary)' : 'transparent'}
              fillOpacity="0.18"
              stroke="var(--color-secondary)"
              strokeWidth={n === picked ? 2 : 1.2}
              onClick={() => pickBoard(n === picked ? null : n)}
              onKeyDown={(e) => {
                if (e.key === 'Enter' || e.key === ' ') pickBoard(n);
                else if (e.key === 'Delete' || e.key === 'Backspace') remove(n);
                else return;
                e.preventDefault();
                e.stopPropagation();
              }}
            />
            <text
              x={x}
              y={y + 4}
              textAnchor="middle"
              className="num"
              fontSize="11"
              fill="var(--color-secondary)"
              stroke="var(--color-base-100)"
              strokeWidth="3"
              paintOrder="stroke"
            >
              {n + 1}
            </text>
          </g>
        );
      })}
      {own && !own.of && (
        <PlaceHandles
          places={{
            shape: 'outline',
            through: own.corners,
            points: own.corners.map((at, k) => ({
              at,
              label: `${CORNERS[k]} of the board`,
              moved: (to) => ({
                ...step,
                boards: boards.map((b, n) =>
                  n === picked ? { ...b, corners: b.corners.map((c, j) => (j === k ? to : c)) } : b,
                ),
              }),
            })),
          }}
          toScreen={toScreen}
          toShare={toShare}
          onChange={onChange}
        />
      )}
    </g>
  );
}
