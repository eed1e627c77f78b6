import { route } from '@/server/http/problem';
import { describeSheet } from '@/server/laying/sheets';

type Context = { params: Promise<{ id: string; surface: string }> };

export const GET = route<Context>(async (_request, { params }) => {
  const { id, surface } = await params;
  return Response.json(await describeSheet(id, surface));
});
