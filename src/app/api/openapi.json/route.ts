import { describeApi } from '@/server/openapi';

export const GET = () => Response.json(describeApi());
