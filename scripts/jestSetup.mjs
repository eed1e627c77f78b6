// Property tests draw the same examples every time: a run that fails must fail again. FC_SEED tries others.
import fc from 'fast-check';

fc.configureGlobal({ seed: Number(process.env.FC_SEED ?? 20261124), numRuns: 200 });
