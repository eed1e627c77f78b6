import { sql } from 'kysely';
import { database, SCHEMA_VERSION } from '@/server/store/database';
import { route } from '@/server/http/problem';
import pkg from '../../../../package.json';

export const GET = route(async () => {
  await sql`select 1`.execute(database());
  return Response.json({ status: 'ok', version: pkg.version, schemaVersion: SCHEMA_VERSION });
});
