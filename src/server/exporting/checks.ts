import { validateBytes } from 'gltf-validator';
import type { HandedOver } from '@/core/dress/exportLaid';
import type { ExportFormat } from '@/core/formats/exportFormats';
import type { Laid } from '@/core/lay/lay';
import { areaOfTriangles } from '@/core/mesh/area';
import { formatArea } from '@/core/units/length';
import { Problem } from '../http/problem';

/** What is asked of a hand-over before it is offered. */

/** What the standard body's validator calls an error ends the job with a sentence: it is never offered. */
export async function checkByStandard(
  { checked, label }: Pick<ExportFormat, 'checked' | 'label'>,
  files: Record<string, Uint8Array>,
): Promise<void> {
  if (!checked) return;
  const main = Object.keys(files).find((name) => name.endsWith(checked))!;
  const report = await validateBytes(files[main], {
    maxIssues: 20,
    externalResourceFunction: async (uri) => {
      const found = files[decodeURIComponent(uri)];
      if (!found) throw new Error(`${uri} is missing`);
      return found;
    },
  });
  const { numErrors, messages } = report.issues;
  if (!numErrors) return;
  const first = messages.find((m) => m.severity === 0);
  throw new Problem(
    500,
    'The file would not be valid',
    `${label} was not written: the standard’s validator finds ${numErrors} ${numErrors === 1 ? 'error' : 'errors'}` +
      `${first ? `, first “${first.message}” at ${first.pointer ?? 'the file'}` : ''}. Nothing was kept.`,
  );
}

/** A hundred-thousandth, and a speck for what is small: rounding to float32 comes to less. */
const AREA_SHARE = 1e-4;
const AREA_SPECK = 50;

/** Everything of a surface must be handed over, and nothing twice. */
export function checkArea(name: string, laid: Pick<Laid, 'sheet'>, made: HandedOver[]): void {
  const area = made.reduce((sum, { dressed }) => sum + areaOfTriangles(dressed), 0);
  const wanted = laid.sheet.trueArea;
  if (Math.abs(area - wanted) <= wanted * AREA_SHARE + AREA_SPECK) return;
  throw new Problem(
    500,
    'The hand-over is not complete',
    `“${name}” has ${formatArea(wanted, 'mm')}, but ${formatArea(area, 'mm')} would be handed over. Nothing was kept.`,
  );
}
