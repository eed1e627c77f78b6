// Points git at the hooks kept here; outside a checkout (a package, a container) there is nothing to do.
import { spawnSync } from 'node:child_process';

spawnSync('git', ['config', 'core.hooksPath', 'scripts/hooks'], { stdio: 'ignore' });
