import type { Due } from '@calm-keel/core/job';
import { calendarOf } from './calendar';

describe('what is due as a calendar', () => {
  const due: Due[] = [{ code: 'coldSeason', on: '2026-12-01', title: 'Prove the cold protection', why: 'Comma, semicolon; and\na line.' }];

  it('has whole days, escaped words, and the same name and content each time', () => {
    const jobs = [{ id: 'teasel', name: 'Launch', due }];
    const text = calendarOf(jobs, '2026-06-10T08:00:00.000Z');
    expect(text).toContain('DTSTART;VALUE=DATE:20261201');
    expect(text).toContain('DTEND;VALUE=DATE:20261202');
    expect(text).toContain('SUMMARY:Launch: Prove the cold protection');
    expect(text).toContain('UID:teasel-coldSeason-prove-the-cold-protection@calm-keel.invalid');
    expect(text.replace(/\r\n /g, '')).toContain('Comma\\, semicolon\\; and\\na line.');
    expect(text).toContain('DTSTAMP:20260610T080000Z');
    expect(calendarOf(jobs, '2026-06-10T08:00:00.000Z')).toBe(text);
  });
});
