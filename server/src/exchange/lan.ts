import { X509Certificate } from 'node:crypto';
import { networkInterfaces } from 'node:os';
import { renderUnicodeCompact } from 'uqr';

/** Addresses of this machine that others on its network reach, IPv4. */
export const lanAddresses = (): readonly string[] =>
  Object.values(networkInterfaces()).flatMap((list) => (list ?? []).flatMap((i) => (i.family === 'IPv4' && !i.internal ? [i.address] : [])));

/** A certificate made on the spot for these addresses, good for a week; its key never leaves memory. */
export async function certificate(addresses: readonly string[]): Promise<{ key: string; cert: string; fingerprint: string }> {
  const { generate } = await import('selfsigned');
  const names = [{ type: 2 as const, value: 'localhost' }, ...['127.0.0.1', ...addresses].map((ip) => ({ type: 7 as const, ip }))];
  const made = await generate([{ name: 'commonName', value: 'Calm Keel on this machine' }], {
    keyType: 'ec',
    notBeforeDate: new Date(Date.now() - 3600_000),
    notAfterDate: new Date(Date.now() + 7 * 24 * 3600_000),
    extensions: [
      { name: 'basicConstraints', cA: false },
      { name: 'keyUsage', digitalSignature: true },
      { name: 'extKeyUsage', serverAuth: true },
      { name: 'subjectAltName', altNames: names },
    ],
  });
  return { key: made.private, cert: made.cert, fingerprint: new X509Certificate(made.cert).fingerprint256 };
}

/** What is shown on the terminal: the address as a code for the phone's camera, the pairing code, and what the phone will say of the certificate. */
export function invitation(addresses: readonly string[], port: number, code: string, fingerprint: string): string {
  const [first] = addresses;
  if (first === undefined)
    return 'No network was found, so no phone can reach this machine. Carry the job over as a file instead: Job file, Save job and logs.';
  const url = `https://${first}:${port}/pair#${code}`;
  return [
    renderUnicodeCompact(url, { ecc: 'M', border: 2 }),
    `For the phone: ${addresses.map((a) => `https://${a}:${port}/pair`).join('  or  ')}`,
    `Pairing code: ${code.slice(0, 3)} ${code.slice(3)}   (good once, for ten minutes; a new one is shown then)`,
    'The phone will warn that it does not know the certificate: it was made just now, for this machine alone. Its SHA-256 fingerprint is',
    fingerprint,
  ].join('\n');
}
