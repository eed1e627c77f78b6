import { route } from '@/server/http/problem';
import { describePieces } from '@/server/laying/sheets';

type Context = { params: Promise<{ id: string; surface: string }> };

export const GET = route<Context>(async (_request, { params }) => {
  const { id, surface } = await params;
  return Response.json(await describePieces(id, surface));
});
