/**
 * What can be said of the sources by reading them: types first, then the linter’s rules, over one program that is made once for both.
 * `--fix` lets the linter mend what it can.
 */
import { ESLint } from 'eslint';
import ts from 'typescript';
import { root } from '../common.mjs';

const config = ts.getParsedCommandLineOfConfigFile(`${root}tsconfig.json`, {}, { ...ts.sys, onUnRecoverableConfigFileDiagnostic: console.error });
if (!config) process.exit(1);
const program = ts.createProgram({ rootNames: config.fileNames, options: config.options });
const wrong = ts.getPreEmitDiagnostics(program);
const host = { getCurrentDirectory: () => root, getCanonicalFileName: (/** @type {string} */ name) => name, getNewLine: () => '\n' };
if (wrong.length > 0) console.log(ts.formatDiagnosticsWithColorAndContext(wrong, host));

const fix = process.argv.includes('--fix');
const eslint = new ESLint({
  cwd: root,
  fix,
  overrideConfig: [{ files: ['**/*.ts', 'tools/**/*.mjs'], languageOptions: { parserOptions: { programs: [program], project: false } } }],
});
const results = await eslint.lintFiles(['.']);
if (fix) await ESLint.outputFixes(results);
const formatter = await eslint.loadFormatter('stylish');
console.log(await formatter.format(results));
const faults = wrong.length + results.reduce((sum, { errorCount, warningCount }) => sum + errorCount + warningCount, 0);
process.exitCode = faults > 0 ? 1 : 0;
