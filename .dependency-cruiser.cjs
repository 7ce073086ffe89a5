/** Imports run one way, and every folder of the core has one door. */
const order = [
  'quantity',
  'files',
  'physics',
  'sheet',
  'paper',
  'card',
  'wire',
  'survey',
  'system',
  'settings',
  'findings',
  'edits',
  'requirements',
  'charger',
  'face',
  'runsheet',
  'rehearsal',
  'proof',
  'fieldtest',
  'practice',
  'words',
  'job',
  'report',
];
const below = (folder) => order.slice(0, order.indexOf(folder));
const inCore = (names) => `^core/src/(${names.join('|')})/`;
/** What each folder may import besides itself: everything below it, with findings and requirements side by side. */
const allowed = {
  quantity: [],
  files: ['quantity'],
  physics: ['quantity'],
  sheet: ['quantity'],
  paper: ['quantity', 'sheet'],
  card: ['quantity', 'sheet'],
  wire: ['quantity', 'sheet', 'card'],
  survey: ['quantity', 'sheet', 'card'],
  system: below('system'),
  settings: below('settings'),
  findings: below('findings'),
  edits: below('findings'),
  requirements: below('findings'),
  charger: below('findings'),
  face: ['quantity', 'sheet', 'card', 'charger'],
  runsheet: [...below('findings'), 'edits'],
  rehearsal: [...below('findings'), 'requirements', 'charger'],
  proof: [...below('findings'), 'requirements', 'charger'],
  fieldtest: [...below('findings'), 'requirements', 'charger', 'proof'],
  practice: [...below('findings'), 'charger', 'face', 'rehearsal', 'proof'],
  words: [...below('findings'), 'findings', 'charger', 'face', 'proof', 'fieldtest', 'practice'],
  job: below('job'),
  report: below('report'),
};
/** The floors of the page, the lowest first: what runs beside the page, what it holds, what every view is made of, drawings, one folder a view, the frame. */
const floors = [
  ['workers'],
  ['data'],
  ['ui'],
  ['drawings'],
  ['hand-over', 'jobs', 'label', 'library', 'pair', 'paper', 'practice', 'program', 'prove', 'rehearse', 'settings', 'simulation', 'spec', 'survey', 'system'],
  ['shell'],
];
const inApp = (names) => `^app/src/app/(${names.join('|')})/`;
const spec = '\\.spec\\.ts$';
/** What measures may look behind the doors, as specs may. */
const bench = '^tools/(bench|papers)/';

module.exports = {
  forbidden: [
    { name: 'no-circle', severity: 'error', from: {}, to: { circular: true } },
    ...order.map((folder) => ({
      name: `one-way-${folder}`,
      comment: `core/${folder} may import ${allowed[folder].join(', ') || 'nothing of the core'}`,
      severity: 'error',
      from: { path: `^core/src/${folder}/`, pathNot: [spec] },
      to: { path: '^core/src/', pathNot: [inCore([folder, ...allowed[folder]])] },
    })),
    ...order.map((folder) => ({
      name: `one-door-${folder}`,
      comment: 'import a core folder through its index.ts',
      severity: 'error',
      from: { pathNot: [`^core/src/${folder}/`, spec, bench] },
      to: { path: `^core/src/${folder}/`, pathNot: [`^core/src/${folder}/index\\.ts$`] },
    })),
    {
      name: 'core-is-pure',
      comment: 'the core runs in a page, a worker, Express and the shell: only these packages',
      severity: 'error',
      from: { path: '^core/src/', pathNot: [spec, '^core/src/testing/'] },
      to: { pathNot: ['^core/src/', '^node_modules/(zod|fflate|crc-32|read-excel-file|@noble/hashes|simple-statistics|@date-fns/tz)/'] },
    },
    { name: 'testing-stays-in-specs', severity: 'error', from: { pathNot: [spec, '^core/src/testing/', '^e2e/', bench] }, to: { path: '^core/src/testing/' } },
    { name: 'nothing-imports-app', severity: 'error', from: { pathNot: ['^app/'] }, to: { path: '^app/' } },
    {
      name: 'devices-stand-apart',
      comment: 'the server speaks to devices over the wire only',
      severity: 'error',
      from: { pathNot: ['^devices/', spec] },
      to: { path: '^devices/' },
    },
    { name: 'app-stays-in-the-page', severity: 'error', from: { path: '^app/src/' }, to: { path: '^(server|devices|cli|demo|e2e|wire)/' } },
    {
      name: 'wire-below-its-users',
      comment: 'server and shell open wires; the wire knows neither',
      severity: 'error',
      from: { path: '^wire/', pathNot: [spec] },
      to: { path: '^(server|devices|cli|app|demo|e2e)/' },
    },
    ...floors.flatMap((floor, i) =>
      floor.map((folder) => ({
        name: `floor-${folder}`,
        comment: `app/${folder} may import ${floors.slice(0, i).flat().join(', ') || 'nothing of the page'}; what two views share lies below both`,
        severity: 'error',
        from: { path: inApp([folder]), pathNot: [spec] },
        to: { path: '^app/src/app/', pathNot: [inApp([folder, ...floors.slice(0, i).flat()])] },
      })),
    ),
    { name: 'no-unlisted-package', severity: 'error', from: {}, to: { dependencyTypes: ['npm-no-pkg', 'npm-unknown', 'unknown'] } },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '(^|/)(dist|\\.angular)/' },
    tsConfig: { fileName: 'tsconfig.base.json' },
    tsPreCompilationDeps: true,
    enhancedResolveOptions: { exportsFields: ['exports'], conditionNames: ['import', 'node', 'default', 'types'], mainFields: ['module', 'main', 'types'] },
  },
};
