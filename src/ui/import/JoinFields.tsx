import type { Preview } from '@/api/answers';
import type { LengthUnit } from '@/core/units/length';
import { ValueField } from '../shared/ValueField';

/** Which corners become one and where a surface ends, with what each of them did. */
export function JoinFields({
  joins,
  surfaces,
  unit,
  onChange,
}: {
  joins: Preview['joins'];
  surfaces: number;
  unit: LengthUnit;
  onChange: (joins: { creaseDeg: number; weldMm: number }) => void;
}) {
  const { creaseDeg, weldMm, corners, openEdges, arrises } = joins;
  const count = (n: number) => n.toLocaleString('en');
  return (
    <section aria-label="What is joined">
      <h2 className="mt-4 mb-1 font-semibold">Joined</h2>
      <div className="grid grid-cols-2 gap-2">
        <div>
          <ValueField
            label="Smoothing angle"
            title="Faces that meet at less than this are one surface, and shade as one"
            kind="angle"
            value={creaseDeg}
            min={0}
            max={180}
            step={5}
            onChange={(v) => onChange({ creaseDeg: v, weldMm })}
          />
          <p className="quiet mt-1 flex items-start gap-1.5 text-2xs leading-tight">
            <span className="mt-1 h-0.5 w-3 shrink-0 bg-base-content" />
            {count(surfaces)} {surfaces === 1 ? 'surface ends' : 'surfaces; they end'} at {count(arrises)} edges
          </p>
        </div>
        <div>
          <ValueField
            label="Weld corners nearer than"
            title="Corners nearer to each other than this become one"
            kind="length"
            unit={unit}
            value={weldMm}
            min={0}
            max={1000}
            step={0.1}
            decimals={unit === 'mm' ? 3 : 5}
            onChange={(v) => onChange({ creaseDeg, weldMm: v })}
          />
          <p className="quiet mt-1 flex items-start gap-1.5 text-2xs leading-tight">
            <span className="mt-1 h-0.5 w-3 shrink-0 bg-primary" />
            {count(corners[1])} corners became {count(corners[0])}; {count(openEdges)} edges are open
          </p>
        </div>
      </div>
    </section>
  );
}
