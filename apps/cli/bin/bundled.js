#!/usr/bin/env node
import { run } from '../dist/run.js';

await run();
