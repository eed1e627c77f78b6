import type { KnownMaterial, Preview } from '@/api/answers';

const ANSWERS: readonly (readonly [KnownMaterial, string, string])[] = [
  ['library', 'The library’s, as it is', 'the file’s pictures of it are left out'],
  ['version', 'A new version of it', 'every setting stays, the pictures are the file’s'],
  ['another', 'Another material', 'it gets a number behind its name'],
];

/** What the model's materials are whose name the library has; nothing where there are none. */
export function KnownMaterials({
  known,
  value,
  onChange,
}: {
  known: Preview['known'];
  value: KnownMaterial;
  onChange: (value: KnownMaterial) => void;
}) {
  if (!known.length) return null;
  const names = known.map(({ name }) => `“${name}”`);
  const shown = names.length > 4 ? [...names.slice(0, 3), `${names.length - 3} more`] : names;
  return (
    <fieldset className="mt-4">
      <legend className="mb-1 font-semibold">Known by name</legend>
      <p className="asks mb-1" title={names.join(', ')}>
        The library has {shown.join(', ')} already. What comes with the model is:
      </p>
      <ul className="flex flex-col gap-1">
        {ANSWERS.map(([answer, label, means]) => (
          <li key={answer}>
            <label
              className={
                'card-panel flex cursor-pointer items-center gap-2 p-2 ' + (value === answer ? 'border-primary' : '')
              }
            >
              <input
                type="radio"
                name="known"
                className="radio radio-xs"
                checked={value === answer}
                onChange={() => onChange(answer)}
              />
              <span>
                <span className="font-medium">{label}</span>
                <span className="quiet ml-2 text-2xs">{means}</span>
              </span>
            </label>
          </li>
        ))}
      </ul>
    </fieldset>
  );
}
