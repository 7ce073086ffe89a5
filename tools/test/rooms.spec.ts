import { readdirSync, readFileSync } from 'node:fs';

const folder = new URL('../../app/src/', import.meta.url);

/** How long a file of the page may be, lines. */
const most = { ts: 250, html: 200, scss: 250 } as const;

/** Longer ones, and why they are not parted. A file that has become short again is taken off the list. */
const long: Readonly<Record<string, string>> = {
  'app/data/device-link.ts': 'what a link holds, and every way in which it is lost',
  'app/data/job-book.ts': 'everything that is stored with a job is stored in one go, or not at all',
  'app/data/job-files.ts': 'what a file brings meets what is here in one place',
  'app/data/job-store.ts': 'the one place where an open job is changed, undone and written',
  'app/data/rehearse-work.ts': 'one worker, and every study that shares it',
  'app/drawings/device-front.ts': 'the keys of one front under hand, mouse and keyboard',
  'app/drawings/ladder-layout.ts': 'one drawing on one axis',
  'app/drawings/ladder.svg.html': 'one drawing on one axis',
  'app/drawings/one-line-layout.ts': 'one drawing on one grid',
  'app/library/library-page.ts': 'shelves and what files bring to them',
  'app/paper/paper-page.ts': 'one key a figure: page, slip and keys move together',
  'app/prove/log-page.ts': 'one log: plot, ribbons, verdicts and moment share one stretch of time',
  'app/rehearse/day-layout.ts': 'lanes of one day on one axis of time',
  'app/rehearse/rehearse-page.html': 'one day: sentence, plot and judgements',
  'app/rehearse/rehearse-page.ts': 'one day: sentence, plot and judgements',
  'app/system/detail-list.ts': 'a list of details, a few lines each',
  'app/workers/log.worker.ts': 'the remote end of every message about a log',
};

describe('the rooms of the page', () => {
  const files = readdirSync(folder, { recursive: true, encoding: 'utf8' }).filter((f) => /\.(ts|html|scss)$/.test(f) && !f.endsWith('.spec.ts'));
  const tooLong = files.filter((file) => {
    const kind = file.split('.').at(-1) as keyof typeof most;
    return readFileSync(new URL(file, folder), 'utf8').split('\n').length - 1 > most[kind];
  });

  it('are of a size, but for those with a reason', () => {
    expect(files.length).toBeGreaterThan(300);
    expect(tooLong.filter((file) => !(file in long))).toEqual([]);
  });

  it('have no reason for being long when they are not', () => {
    expect(Object.keys(long).filter((file) => !tooLong.includes(file))).toEqual([]);
  });
});
