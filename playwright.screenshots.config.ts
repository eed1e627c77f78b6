import { defineConfig } from '@playwright/test';
import tests from './playwright.config';

/** Retakes docs/screenshots: the same server and demo as the tests, another folder of scripts. */
export default defineConfig({ ...tests, testDir: 'scripts', testMatch: 'screenshots.spec.ts', timeout: 300_000 });
