import { validateBytes } from 'gltf-validator';
import type { HandedOver } from '@/core/dress/exportLaid';
import type { ExportFormat } from '@/core/formats/exportFormats';
import type { Laid } from '@/core/lay/lay';
import { areaOfTriangles } from '@/core/mesh/area';
import { formatArea } from '@/core/units/length';
import { Problem } from '../http/problem';
import type { FilesIn } from './exportFolder';
import { allButMeshes, groupPrimitives, MOST_AT_ONCE, openContainer, openText, primitivesAlone } from './sceneParts';

/** What is asked of a hand-over before it is offered. */

/** Up to so many bytes a hand-over is checked whole; a larger one in parts, so that memory follows the largest mesh. */
const MOST_WHOLE = 128e6;

/** What the standard body's validator calls an error ends the job with a sentence: it is never offered. */
export async function checkByStandard(
  { checked, label }: Pick<ExportFormat, 'checked' | 'label'>,
  files: FilesIn,
  progress: (share: number) => void = () => {},
  mostWhole = MOST_WHOLE,
): Promise<void> {
  if (!checked) return;
  const whole = (name: string) => files.read(name, 0, files.sizes[name]);
  const main = Object.keys(files.sizes).find((name) => name.endsWith(checked))!;
  const bytes = Object.values(files.sizes).reduce((sum, size) => sum + size, 0);
  if (bytes > mostWhole) {
    const scene = checked === '.glb' ? await openContainer(files, main) : await openText(files, main);
    const all = groupPrimitives(scene, Math.min(MOST_AT_ONCE, mostWhole));
    for (const [n, which] of all.entries()) {
      await demand(label, await primitivesAlone(scene, which));
      progress(n / all.length);
    }
    return demand(label, await allButMeshes(scene));
  }
  await demand(label, await whole(main), async (uri) => {
    const name = decodeURIComponent(uri);
    if (!(name in files.sizes)) throw new Error(`${uri} is missing`);
    return whole(name);
  });
}

async function demand(
  label: string,
  bytes: Uint8Array,
  externalResourceFunction?: (uri: string) => Promise<Uint8Array>,
): Promise<void> {
  const { issues } = await validateBytes(bytes, { maxIssues: 20, externalResourceFunction });
  const { numErrors, messages } = issues;
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
  const area = made.reduce(
    (sum, { dressed, stands }) => sum + areaOfTriangles(dressed) * (stands ? stands.length / 3 : 1),
    0,
  );
  const wanted = laid.sheet.trueArea;
  if (Math.abs(area - wanted) <= wanted * AREA_SHARE + AREA_SPECK) return;
  throw new Problem(
    500,
    'The hand-over is not complete',
    `“${name}” has ${formatArea(wanted, 'mm')}, but ${formatArea(area, 'mm')} would be handed over. Nothing was kept.`,
  );
}
