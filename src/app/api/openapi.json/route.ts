import { describeApi } from '@/server/http/openapi';

export const GET = () => Response.json(describeApi());
