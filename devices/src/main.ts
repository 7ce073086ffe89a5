import { readFileSync } from 'node:fs';
import { simulate } from './run';

const port = Number(process.env['DEVICES_PORT'] ?? 4180);
const speed = Number(process.env['DEVICES_SPEED'] ?? 1);
if (!Number.isInteger(port) || port < 1 || port > 65_500 || !(speed >= 0 && speed <= 600)) {
  console.error('DEVICES_PORT must be a whole number from 1 to 65500, DEVICES_SPEED a number from 0 to 600.');
  process.exit(2);
}
const demo = (name: string): string => readFileSync(new URL(`../../demo/${name}.job.json`, import.meta.url), 'utf8');
try {
  const simulation = await simulate(['teasel', 'skarrow'].map(demo), port, speed, process.env['DEVICES_LINE']);
  const list = [...simulation.running.fronts].map(([name, front]) => `${name} ${front.port}`).join(', ');
  if (simulation.withoutLines !== null) console.log(simulation.withoutLines);
  console.log(`Simulated devices listen on 127.0.0.1: ${list}. Their keys are pressed at ${simulation.controlPort}.`);
  for (const signal of ['SIGINT', 'SIGTERM'] as const) process.on(signal, () => void simulation.close().then(() => process.exit(0)));
} catch (error) {
  const busy = (error as NodeJS.ErrnoException).code === 'EADDRINUSE';
  console.error(
    busy
      ? `Port ${port} or one of the next twelve is taken. Choose another one with DEVICES_PORT.`
      : `The devices could not start: ${String((error as Error).message)}`,
  );
  process.exit(1);
}
