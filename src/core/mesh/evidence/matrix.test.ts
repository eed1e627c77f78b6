import { fileSetOf } from '../../formats/fileSet';
import { readModel } from '../../formats/readModel';
import { MADE_MODELS, objText } from '../../testing/models';
import { type SizeEvidence, weighSizes } from './weigh';

const UNITS = [
  ['mm', 1000],
  ['cm', 100],
  ['m', 1],
  ['in', 1000 / 25.4],
  ['ft', 1000 / 304.8],
] as const;

interface Case {
  model: string;
  unit: string;
  up: 'y' | 'z';
  found: SizeEvidence;
}

/** Every model in every unit with either axis up. */
async function weighAll(named: boolean): Promise<Case[]> {
  const cases: Case[] = [];
  for (const [model, make] of MADE_MODELS) {
    const parts = make();
    for (const [unit, perMetre] of UNITS) {
      for (const up of ['y', 'z'] as const) {
        const file = named ? `${model}.obj` : 'export.obj';
        const text = objText(parts, perMetre, up, named);
        const raw = await readModel(fileSetOf({ [file]: new TextEncoder().encode(text) }));
        cases.push({ model, unit, up, found: weighSizes(raw) });
      }
    }
  }
  return cases;
}

const unitRight = ({ unit, found }: Case) => found.guesses[0].unit === unit;
const upRight = ({ up, found }: Case) => found.up.axis === up;
const said = ({ model, unit, up, found }: Case) => `${model} in ${unit}, ${up} up: ${JSON.stringify(found.guesses[0])}`;

describe.each([
  ['with names', true, 0.95],
  ['without names', false, 0.8],
] as const)('%s', (_, named, least) => {
  let cases: Case[];
  beforeAll(async () => {
    cases = await weighAll(named);
  }, 120_000);

  test('the unit is right', () => {
    expect(cases.filter(unitRight).length / cases.length).toBeGreaterThanOrEqual(least);
  });
  test('the up-axis is right', () => {
    expect(cases.filter(upRight).length / cases.length).toBeGreaterThanOrEqual(least);
  });
  test('none is certain and wrong', () => {
    expect(cases.filter((c) => c.found.certain && !unitRight(c)).map(said)).toEqual([]);
    expect(cases.filter((c) => c.found.up.certain && !upRight(c)).map(said)).toEqual([]);
  });
});
