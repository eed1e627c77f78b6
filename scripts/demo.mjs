// Installs, builds, seeds the demo and serves it. A second run starts at once and keeps the data.
import { buildAll, install, port, run, startServer } from './steps.mjs';

install();
await buildAll();
run(process.execPath, ['dist/seed.mjs']);
console.log(`\nJute Grid: http://127.0.0.1:${port()}\n`);
const server = startServer();
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal));
server.on('exit', (code) => process.exit(code ?? 0));
