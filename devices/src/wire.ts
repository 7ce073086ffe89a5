import { createServer, connect, type Server, type Socket } from 'node:net';
import { ServerTCP } from 'modbus-serial';
import { Refusal, type Device } from './device';

/** A device on the network. */
export interface Front {
  readonly port: number;
  close(): Promise<void>;
}

const writes = new Set([6, 16]);
/** Place of the function code in a frame. */
const functionAt = 7;

/** A port of the loopback that nobody uses. */
const freePort = (): Promise<number> =>
  new Promise((resolve, reject) => {
    const probe = createServer();
    probe.once('error', reject);
    probe.listen(0, '127.0.0.1', () => {
      const address = probe.address();
      probe.close(() => (typeof address === 'object' && address ? resolve(address.port) : reject(new Error('no port'))));
    });
  });

/** An answer that never comes. */
const never = (): Promise<never> => new Promise<never>(() => undefined);

/** Errors of a device as the server wants them. */
function guarded<T>(device: Device, work: (device: Device) => T): Promise<T> {
  if (device.faults.has('timeout')) return never();
  try {
    return Promise.resolve(work(device));
  } catch (error) {
    return Promise.reject(error instanceof Refusal ? error : new Refusal(4));
  }
}

/**
 * Puts a device on a port of the loopback. The protocol is spoken by a server inside; a thin front passes bytes through, so that an answer can be
 * garbled and a connection dropped between a write and its answer.
 *
 * @param device asked anew for every frame: what stands behind a port may be replaced
 * @param port 0 for any that is free
 */
export async function putOnWire(device: () => Device, port: number): Promise<Front> {
  const inner = await freePort();
  const server = new ServerTCP(
    {
      getHoldingRegister: (register: number) => guarded(device(), (d) => d.read(register)),
      setRegister: (register: number, value: number) => guarded(device(), (d) => d.write(register, value)),
    },
    { host: '127.0.0.1', port: inner, unitID: 1 },
  );
  // A master that goes away in the middle of a frame is everyday life here.
  server.on('socketError', () => undefined);
  await new Promise<void>((resolve) => server.on('initialized', () => resolve()));

  const sockets = new Set<Socket>();
  const front: Server = createServer((socket) => {
    const behind = connect(inner, '127.0.0.1');
    for (const s of [socket, behind]) {
      sockets.add(s);
      s.on('error', () => undefined);
      s.on('close', () => {
        sockets.delete(s);
        socket.destroy();
        behind.destroy();
      });
    }
    let cutAfter = false;
    socket.on('data', (data) => {
      const writing = writes.has(data[functionAt] ?? 0);
      if (writing && device().faults.delete('dropBefore')) {
        // Half of the frame arrives: the device knows nothing of a write.
        behind.write(data.subarray(0, 5));
        socket.destroy();
        return;
      }
      if (writing && device().faults.delete('dropAfter')) cutAfter = true;
      behind.write(data);
    });
    behind.on('data', (data) => {
      if (cutAfter) {
        socket.destroy();
        return;
      }
      if (device().faults.delete('garbled')) {
        const broken = Buffer.from(data);
        for (let i = functionAt; i < broken.length; i += 2) broken[i] = (broken[i] ?? 0) ^ 0x5a;
        socket.write(broken.subarray(0, Math.max(1, broken.length - 1)));
        return;
      }
      socket.write(data);
    });
  });
  await new Promise<void>((resolve, reject) => {
    front.once('error', reject);
    front.listen(port, '127.0.0.1', () => resolve());
  });
  const address = front.address();
  return {
    port: typeof address === 'object' && address ? address.port : port,
    close: async () => {
      for (const s of sockets) s.destroy();
      await new Promise<void>((resolve) => front.close(() => resolve()));
      await new Promise<void>((resolve) => server.close(() => resolve()));
    },
  };
}
