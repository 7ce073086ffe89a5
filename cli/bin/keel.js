#!/usr/bin/env node
import '../dist/keel.js';
