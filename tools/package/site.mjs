/** Header lines and cache rules of the application, as its own server sends them, for an ordinary web server. */

/** What a server adds that belongs to one answer or one connection. */
const ofOneAnswer = new Set([
  'date',
  'etag',
  'last-modified',
  'connection',
  'keep-alive',
  'content-length',
  'content-type',
  'accept-ranges',
  'vary',
  'transfer-encoding',
  'content-encoding',
]);

/**
 * Asks the application’s own server, so that nothing is written down twice.
 *
 * @param {string} base
 * @param {string} path
 * @returns {Promise<[string, string][]>}
 */
export async function headersAt(base, path) {
  const response = await fetch(base + path);
  await response.arrayBuffer();
  if (!response.ok) throw new Error(`${path} was answered with ${response.status}`);
  return [...response.headers].filter(([name]) => !ofOneAnswer.has(name));
}

/**
 * @typedef {{ everywhere: [string, string][], hashed: string, plain: string, reader: string }} Rules what is sent with everything, how long a file
 * with a fingerprint in its name and any other are kept, and the policy of the picture reader
 */

/**
 * @param {string} base
 * @param {string} hashedFile a file with a fingerprint in its name
 * @returns {Promise<Rules>}
 */
export async function rulesOf(base, hashedFile) {
  const [page, hashed, reader] = await Promise.all(['/', `/${hashedFile}`, '/ocr/worker.min.js'].map((path) => headersAt(base, path)));
  const of = (/** @type {[string, string][] | undefined} */ list, /** @type {string} */ name) => list?.find(([n]) => n === name)?.[1] ?? '';
  return {
    everywhere: (page ?? []).filter(([name]) => name !== 'cache-control'),
    plain: of(page, 'cache-control'),
    hashed: of(hashed, 'cache-control'),
    reader: of(reader, 'content-security-policy'),
  };
}

const fingerprint = '-[A-Z0-9]{8}\\.[a-z0-9]+$';
/** Whether a file has a fingerprint of its contents in its name. @param {string} name */
export const isHashed = (name) => new RegExp(fingerprint).test(name);

/** In plain words, one rule a block. @param {Rules} rules */
export const asText = ({ everywhere, hashed, plain, reader }) =>
  `# Calm Keel as a static site: what to send with its files.
# A path that is no file gets index.html with status 200, except below /api/, which gets 404: there is no server behind this site.

[every file]
${everywhere.map(([name, value]) => `${name}: ${value}`).join('\n')}
cache-control: ${plain}

[files whose name ends in ${fingerprint}]
cache-control: ${hashed}

[/ocr/worker.min.js]
content-security-policy: ${reader}
`;

/** For servers that read .htaccess files. @param {Rules} rules */
export const asHtaccess = ({ everywhere, hashed, plain, reader }) =>
  `<IfModule mod_headers.c>
${everywhere.map(([name, value]) => `  Header always set ${name} "${value.replaceAll('"', '\\"')}"`).join('\n')}
  Header set cache-control "${plain}"
  <FilesMatch "${fingerprint}">
    Header set cache-control "${hashed}"
  </FilesMatch>
  <If "%{REQUEST_URI} =~ m#/ocr/worker\\.min\\.js$#">
    Header always set content-security-policy "${reader.replaceAll('"', '\\"')}"
  </If>
</IfModule>
RewriteEngine On
RewriteRule ^api/ - [R=404,L]
RewriteCond %{REQUEST_FILENAME} !-f
RewriteRule ^ index.html [L]
`;

/** For servers set up by blocks of locations. @param {Rules} rules */
export function asBlocks({ everywhere, hashed, plain, reader }) {
  const lines = (/** @type {[string, string][]} */ list) =>
    list.map(([name, value]) => `  add_header ${name} "${value.replaceAll('"', '\\"')}" always;`).join('\n');
  const withPolicy = everywhere.map(([name, value]) => /** @type {[string, string]} */ ([name, name === 'content-security-policy' ? reader : value]));
  return `# Inside a server block whose root is the folder “site”.
location /api/ { return 404; }
location / {
  try_files $uri /index.html;
${lines([...everywhere, ['cache-control', plain]])}
}
location ~ "${fingerprint}" {
${lines([...everywhere, ['cache-control', hashed]])}
}
location = /ocr/worker.min.js {
${lines([...withPolicy, ['cache-control', plain]])}
}
`;
}
