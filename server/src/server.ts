import { existsSync } from 'node:fs';
import type { Server } from 'node:http';
import { join } from 'node:path';
import compression from 'compression';
import express, { type Express, type NextFunction, type Request, type Response } from 'express';
import helmet from 'helmet';
import { noDevices, type DeviceList } from '@calm-keel/wire';
import { exchangeRoutes, pairRoutes } from './exchange/routes';
import { pairedOnly, type Pairing } from './exchange/pairing';
import { linkRoutes, simulationRoutes, type LinkOptions } from './link/routes';

/**
 * What the page may load. Everything comes from this server; there is no `unsafe-eval`.
 * `style-src 'unsafe-inline'`: the framework writes component styles, and the plot library writes style attributes, into the page.
 * `img-src blob: data:`: the plot library draws through data and blob images when it exports a picture.
 */
const contentSecurityPolicy = {
  useDefaults: false,
  directives: {
    defaultSrc: ["'self'"],
    scriptSrc: ["'self'"],
    scriptSrcAttr: ["'none'"],
    styleSrc: ["'self'", "'unsafe-inline'"],
    imgSrc: ["'self'", 'data:', 'blob:'],
    fontSrc: ["'self'"],
    connectSrc: ["'self'"],
    workerSrc: ["'self'"],
    manifestSrc: ["'self'"],
    objectSrc: ["'none'"],
    frameSrc: ["'none'"],
    baseUri: ["'self'"],
    formAction: ["'self'"],
    frameAncestors: ["'none'"],
  },
};

/** The worker that reads pictures runs a compiled program of this server, and may do nothing else: the page’s own policy stays as it is. */
const pictureReaderPolicy = "default-src 'none'; script-src 'self' 'wasm-unsafe-eval'; connect-src 'self'";

/**
 * How long an idle connection stays open, in milliseconds. Browsers let an idle one go after five minutes; this is longer, so that it is
 * always the browser that ends it. Ended from here, a request already under way on it would be lost, and with it the answer to a write.
 */
const idleFor = 600_000;

/**
 * Lets the idle connections of a server be ended by the other side.
 *
 * @example keepOpen(app.listen(4173, '127.0.0.1'))
 */
export function keepOpen<S extends Pick<Server, 'keepAliveTimeout'>>(server: S): S {
  server.keepAliveTimeout = idleFor;
  return server;
}

/**
 * Serves the built application from `folder`.
 *
 * @param folder holds index.html; a missing one is answered with a sentence, not a stack
 * @param devices what the link may speak to; nothing by default
 * @param pairing browsers of other machines that may reach devices and exchange; null: this machine's own only
 */
export function createServer(folder: string, devices: DeviceList = noDevices, options: LinkOptions = {}, pairing: Pairing | null = null): Express {
  const app = express();
  app.disable('x-powered-by');
  // No strict-transport header: on the loopback address there is no TLS, and elsewhere the certificate is good for a week only.
  app.use(helmet({ contentSecurityPolicy, strictTransportSecurity: false, crossOriginEmbedderPolicy: false }));
  app.use(compression());
  app.get('/health', (_request, response) => {
    response.set('Cache-Control', 'no-store').json({ ok: true });
  });
  app.use('/api/pair', pairRoutes(pairing));
  app.use('/api/exchange', exchangeRoutes(pairing));
  app.use('/api/link', pairedOnly(pairing), linkRoutes(devices, options));
  app.use('/api/simulation', pairedOnly(pairing), simulationRoutes(devices));
  // Built files carry a hash in their name and never change; the rest is asked for each time.
  app.use(
    express.static(folder, {
      index: false,
      setHeaders: (response, path) => {
        response.set('Cache-Control', /-[A-Z0-9]{8}\.\w+$/.test(path) ? 'public, max-age=31536000, immutable' : 'no-cache');
        if (/[\\/]ocr[\\/]worker\.min\.js$/.test(path)) response.set('Content-Security-Policy', pictureReaderPolicy);
      },
    }),
  );
  app.get('/{*any}', (request, response) => {
    if (/\.\w+$/.test(request.path)) {
      response.status(404).type('text').send('There is no such file.');
      return;
    }
    const index = join(folder, 'index.html');
    if (existsSync(index)) response.set('Cache-Control', 'no-cache').sendFile(index);
    else response.status(503).type('text').send('The application is not built yet. Run: npm run build');
  });
  // A request that cannot be read, or a fault of the server, is told in a sentence: no path, no trace of the program.
  app.use((error: { status?: number }, request: Request, response: Response, next: NextFunction) => {
    if (response.headersSent) {
      next(error);
      return;
    }
    const { status = 500 } = error;
    const [code, text] =
      status < 400 || status >= 500
        ? ['failed', 'The server failed at this.']
        : status === 413
          ? ['too-large', 'This request is too large.']
          : ['bad-request', 'This request cannot be read.'];
    response.status(code === 'failed' ? 500 : status);
    if (request.path.startsWith('/api/')) response.json({ code, text });
    else response.type('text').send(text);
  });
  return app;
}
