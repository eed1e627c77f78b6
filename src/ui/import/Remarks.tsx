import type { Remark } from '@/core/mesh/types';

/** What the reader did and could not do. */
export function Remarks({ remarks, missing }: { remarks: Remark[]; missing: string[] }) {
  const groups = (['repaired', 'left out', 'missing', 'note'] as const).map(
    (kind) => [kind, remarks.filter((r) => r.kind === kind).map((r) => r.text)] as const,
  );
  const titles = { repaired: 'Repaired', 'left out': 'Left out', missing: 'Missing', note: 'Worth knowing' };
  const shown = groups
    .map(
      ([kind, texts]) =>
        [
          kind,
          kind === 'missing' && missing.length
            ? [...texts, ...missing.map((m) => `the picture ${m}; bring it now in the same drop, or later`)]
            : texts,
        ] as const,
    )
    .filter(([, texts]) => texts.length);
  if (!shown.length) return <p className="text-success mt-4">Nothing had to be repaired or left out.</p>;
  return (
    <div className="mt-4 flex flex-col gap-2">
      {shown.map(([kind, texts]) => (
        <section key={kind}>
          <h2 className="font-semibold">{titles[kind]}</h2>
          <ul className="quiet list-disc pl-4">
            {texts.map((t) => (
              <li key={t}>{t}</li>
            ))}
          </ul>
        </section>
      ))}
    </div>
  );
}
