import { buildAll, install } from './steps.mjs';

install();
await buildAll();
