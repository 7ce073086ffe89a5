import { TestBed } from '@angular/core/testing';
import { JobFiles, type OpenBackup } from '../data/job-files';
import { RestorePanel } from './restore-panel';

describe('what a backup would change', () => {
  const line = (id: string, state: 'new' | 'same' | 'differs') => ({
    id,
    name: id,
    state,
    there: '2026-06-01T08:00:00Z',
    here: state === 'new' ? null : '2026-06-02T08:00:00Z',
  });

  function open(lines: readonly ReturnType<typeof line>[], head: object = {}, unread: readonly string[] = []) {
    const asked: Readonly<Record<string, string>>[] = [];
    let tell: (done: number, all: number) => boolean = () => true;
    let end: (notes: readonly string[]) => void = () => undefined;
    let fall: (error: Error) => void = () => undefined;
    const files = {
      restore: (_: OpenBackup, choices: Readonly<Record<string, string>>, progress: typeof tell) => {
        asked.push(choices);
        tell = progress;
        return new Promise<readonly string[]>((resolve, reject) => {
          end = resolve;
          fall = reject;
        });
      },
    };
    TestBed.configureTestingModule({ providers: [{ provide: JobFiles, useValue: files }] });
    const fixture = TestBed.createComponent(RestorePanel);
    const all = { name: 'all.keel.zip', head: { at: '2026-06-03T08:00:00Z', sheets: [], cards: [], mappings: [], ...head }, lines, unread };
    fixture.componentRef.setInput('backup', all);
    const said: (readonly string[])[] = [];
    fixture.componentInstance.done.subscribe((notes) => said.push(notes));
    fixture.detectChanges();
    const host = fixture.nativeElement as HTMLElement;
    return {
      host,
      said,
      asked,
      tell: (done: number, of: number) => {
        const on = tell(done, of);
        fixture.detectChanges();
        return on;
      },
      end: (notes: readonly string[]) => {
        end(notes);
      },
      fall: (error: Error) => {
        fall(error);
      },
      button: () => host.querySelector<HTMLButtonElement>('.press')!,
      press: (selector: string) => {
        host.querySelector<HTMLButtonElement>(selector)!.click();
        fixture.detectChanges();
      },
      choose: (name: string, value: string) => {
        const field = host.querySelector<HTMLSelectElement>(`[aria-label="${name}"]`)!;
        field.value = value;
        field.dispatchEvent(new Event('change'));
        fixture.detectChanges();
      },
    };
  }

  it('is shown job by job: what is the same stays, what differs is asked', () => {
    const { host, button } = open([line('Barge', 'new'), line('Hut', 'same'), line('Mast', 'differs')]);
    const rows = [...host.querySelectorAll('tbody tr')].map((r) => r.textContent.replace(/\s+/g, ' '));
    expect(rows[0]).toContain('not on this device');
    expect(rows[1]).toContain('stays as it is');
    expect(rows[2]).toContain('here otherwise, touched 2 Jun 2026');
    expect([...host.querySelectorAll('[aria-label="Mast"] option')].map((o) => (o as HTMLOptionElement).value)).toEqual(['keepBoth', 'replace', 'skip']);
    expect(button().textContent.trim()).toBe('Restore 2 jobs');
  });

  it('counts what is wanted, and has nothing to do when nothing is', () => {
    const { choose, button } = open([line('Barge', 'new'), line('Mast', 'differs')]);
    choose('Barge', 'skip');
    expect(button().textContent.trim()).toBe('Restore 1 job');
    choose('Mast', 'skip');
    expect([button().textContent.trim(), button().disabled]).toEqual(['Nothing to restore', true]);
  });

  it('brings what lies beside the jobs also by itself, and says what could not be read', () => {
    const { host, choose, button } = open([line('Barge', 'new')], { cards: [{}], raw: [{}] }, ['“Raft” could not be read.']);
    choose('Barge', 'skip');
    expect([button().textContent.trim(), button().disabled]).toEqual(['Restore what comes beside the jobs', false]);
    expect(host.textContent).toContain('One entry could not be read where the backup was made');
    expect(host.querySelector('.wrong')?.textContent).toContain('“Raft” could not be read. It is left out.');
  });

  it('goes as it was chosen, says how far it is, and can be stopped', async () => {
    const { choose, press, asked, tell, host, end, said } = open([line('Barge', 'new'), line('Mast', 'differs')]);
    choose('Mast', 'replace');
    press('.press');
    expect(asked).toEqual([{ Mast: 'replace' }]);
    expect(tell(1, 2)).toBeTrue();
    expect(host.querySelector('[role=status]')?.textContent).toContain('Restoring, 1 of 2.');
    press('[role=status] button');
    expect(tell(1, 2)).toBeFalse();
    end(['Stopped after 1 of 2.']);
    await Promise.resolve();
    await Promise.resolve();
    expect(said).toEqual([['Stopped after 1 of 2.']]);
  });

  it('ends with a sentence when there is no room', async () => {
    const { press, fall, said } = open([line('Barge', 'new')]);
    press('.press');
    fall(new DOMException('full', 'QuotaExceededError'));
    await new Promise((resolve) => setTimeout(resolve));
    expect(said.length).toBe(1);
    expect(said[0]?.[0]).toMatch(/room/);
  });
});
