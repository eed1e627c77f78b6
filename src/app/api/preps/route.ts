import { listPreps, receivePreps } from '@/server/prep/preps';
import { route } from '@/server/http/problem';
import { receiveUpload } from '@/server/importing/uploads';

export const GET = route(async () => Response.json(await listPreps()));

/** Pictures, each the beginning of a prep. */
export const POST = route(async (request) =>
  Response.json(await receivePreps(await receiveUpload(request)), { status: 201 }),
);
