/** Development server with reload. */
import { copyData, ensurePackages, root, run } from './common.mjs';

await ensurePackages();
copyData();
const { code } = await run(`${root}node_modules/.bin/ng`, ['serve', '--port', process.env.PORT ?? '4173'], { cwd: `${root}app` });
process.exit(code);
