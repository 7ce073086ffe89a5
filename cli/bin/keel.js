#!/usr/bin/env node
import { existsSync } from 'node:fs';

const built = new URL('../dist/keel.js', import.meta.url);
if (existsSync(built)) await import(built.href);
else {
  console.error('keel is not built yet. Run: npm run build');
  process.exitCode = 2;
}
