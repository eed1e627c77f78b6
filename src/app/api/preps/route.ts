import { listPreps, receivePreps } from '@/server/preps';
import { route } from '@/server/problem';
import { receiveUpload } from '@/server/uploads';

export const GET = route(async () => Response.json(await listPreps()));

/** Pictures, each the beginning of a prep. */
export const POST = route(async (request) =>
  Response.json(await receivePreps(await receiveUpload(request)), { status: 201 }),
);
