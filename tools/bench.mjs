/** The speed table. Ratios come from one run on one machine; nothing here fails a test. */
import { ensurePackages, root, run } from './common.mjs';

await ensurePackages();
const { code } = await run(process.execPath, ['--import', 'tsx', 'tools/bench/read-log.ts'], { cwd: root });
process.exit(code);
