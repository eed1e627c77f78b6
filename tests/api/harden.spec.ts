import { askEverything } from '../../harden/api';
import { manyClients } from '../../harden/clients';
import { makeCorpus, sendCorpus } from '../../harden/corpus';
import { fillDisk } from '../../harden/disk';
import { killOften } from '../../harden/durability';
import { type Found, Served } from '../../harden/server';
import { expect, test } from '../test';

/** The short form of npm run harden; the long one is run by hand. */

const onServer = async (index: number, work: (served: Served) => Promise<Found>): Promise<Found> => {
  const served = await new Served(4701 + index).begin();
  try {
    return await work(served);
  } finally {
    await served.end();
  }
};
const nothing = ({ told, faults }: Found) => {
  for (const line of told) console.log(`  ${line}`);
  expect(faults).toEqual([]);
};

test('every call of the table asked wrongly: each is answered, none by a 500', async ({}, { parallelIndex }) =>
  nothing(await onServer(parallelIndex, (s) => askEverything(s, 7))));

test('hostile files: a sentence each, and nothing is left', async ({}, { parallelIndex }) =>
  nothing(await onServer(parallelIndex, async (s) => sendCorpus(s, await makeCorpus(105)))));

test('killed in the middle of whatever it does: nothing acknowledged is lost, nothing is left', async ({}, {
  parallelIndex,
}) => nothing(await onServer(parallelIndex, (s) => killOften(s, { runs: 2, commands: 60, kills: 1 }))));

test('a full disk is said, and when there is room again all goes on', async ({}, { parallelIndex }) =>
  nothing(await fillDisk(4701 + parallelIndex)));

test('eight at one project: no change is lost', async ({}, { parallelIndex }) =>
  nothing(await onServer(parallelIndex, (s) => manyClients(s, 8, 200))));
