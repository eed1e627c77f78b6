/** How large a metre is shown. */
export function ScaleSlider({ pxPerMetre, onChange }: { pxPerMetre: number; onChange: (pxPerMetre: number) => void }) {
  return (
    <label className="quiet ml-2 flex items-center gap-2 text-2xs">
      Scale
      <input
        type="range"
        className="range range-xs w-32"
        min={60}
        max={900}
        step={10}
        value={pxPerMetre}
        onChange={(e) => onChange(Number(e.target.value))}
        aria-label="Pixels per metre"
      />
      <span className="num w-20">{pxPerMetre} px/m</span>
    </label>
  );
}

/** A hand and a one-metre rule at the scale of the swatches. */
export function ScaleFigures({ pxPerMetre: s }: { pxPerMetre: number }) {
  const hand = 0.19 * s;
  return (
    <div className="flex items-end gap-3">
      <svg
        width={hand * 0.62}
        height={hand}
        viewBox="0 0 62 100"
        fill="none"
        stroke="currentColor"
        strokeWidth="3"
        strokeLinejoin="round"
      >
        <path d={HAND} />
      </svg>
      <svg width={26} height={s} viewBox={`0 0 26 ${s}`}>
        <rect x="0.5" y="0.5" width="12" height={s - 1} fill="var(--color-base-100)" stroke="currentColor" />
        {Array.from({ length: 9 }, (_, i) => (
          <line
            key={i}
            x1={i === 4 ? 3 : 7}
            x2="12"
            y1={((i + 1) * s) / 10}
            y2={((i + 1) * s) / 10}
            stroke="currentColor"
          />
        ))}
        <text x="15" y="10" fontSize="9" fill="currentColor" className="num">
          1m
        </text>
      </svg>
    </div>
  );
}

const HAND =
  'M16 96V74C8 66 4 56 3 46c0-4 5-5 7-1l7 14V17c0-6 8-6 8 0v-8c0-6 9-6 9 0v6c0-6 9-6 9 0' +
  'v9c0-5 8-5 8 0v40c0 10-3 14-7 20v12';
