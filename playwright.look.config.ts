import { defineConfig } from '@playwright/test';
import tests from './playwright.config';
export default defineConfig({ ...tests, testDir: 'tmp', testMatch: 'look.spec.ts' });
