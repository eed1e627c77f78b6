import type { Material } from '../material/schema';
import { formatLength, type LengthUnit } from '../units/length';
import { type About, type Portion, PORTIONS } from './portions';
import type { Spec } from './schema';

/** A stretch of the spec line; where `portion` is set, it leads to that segment of the bench. */
export interface LinePart {
  text: string;
  portion?: Portion;
}

/** The spec of a surface read aloud as one sentence; `definitions` where not the application’s alone. */
export function specLine(
  surface: string,
  spec: Spec | null,
  material: Material | null,
  unit: LengthUnit,
  definitions: Pick<About, 'layouts' | 'mappings'> = {},
): LinePart[] {
  if (!spec || !material) return [{ text: `${surface} has nothing laid on it yet.` }];
  const length = (mm: number, withUnit = true) => formatLength(mm, unit, { withUnit });
  const about: About = { spec, material, unit, length, ...definitions };
  const said = PORTIONS.flatMap(({ key, lead, words }): LinePart[] => {
    const text = words(about);
    return text === null ? [] : [{ text: lead }, { text, portion: key }];
  });
  return [{ text: surface }, ...said, { text: '.' }];
}

export const lineText = (parts: LinePart[]): string => parts.map((p) => p.text).join('');
