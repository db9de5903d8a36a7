#!/usr/bin/env node
// The command line, compiled when it is not or no longer.
import '../scripts/compiled.mjs';
await import('./dist/main.js');
