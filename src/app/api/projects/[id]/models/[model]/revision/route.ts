import { readChoice } from '@/server/importing/importModel';
import { badField, route } from '@/server/http/problem';
import { reviseModel } from '@/server/importing/revising';
import { openUpload } from '@/server/importing/uploads';
import { readJson } from '@/server/http/validate';

type Context = { params: Promise<{ id: string; model: string }> };

/** A changed model: a proposal, or with `baseRevision` the change itself. */
export const POST = route<Context>(async (request, { params }) => {
  const { id, model } = await params;
  const body = (await readJson(request)) as Record<string, unknown>;
  if (typeof body.upload !== 'string') throw badField('upload', '“upload” is missing: the id POST /api/uploads gave.');
  const decisions = (body.decisions ?? {}) as Record<number, string | null>;
  if (typeof decisions !== 'object' || Array.isArray(decisions)) {
    throw badField('decisions', 'Decisions are given as the number of a newer part and the part it is, or null.');
  }
  const base = body.baseRevision === undefined ? null : Number(body.baseRevision);
  return Response.json(await reviseModel(id, model, await openUpload(body.upload), readChoice(body), decisions, base));
});
