// Serves what npm run build made.
import { startServer } from './steps.mjs';

const server = startServer();
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal));
server.on('exit', (code) => process.exit(code ?? 0));
