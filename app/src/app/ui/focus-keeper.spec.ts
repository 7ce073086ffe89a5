import { TestBed } from '@angular/core/testing';
import { setUp } from '../testing';
import { FocusKeeper } from './focus-keeper';

describe('the focus, when what held it is gone', () => {
  let root: HTMLElement;
  const put = (html: string): void => {
    root.innerHTML = html;
  };
  const at = (id: string): HTMLElement => document.getElementById(id)!;
  /** Has the focus on one element, changes the page, and tells where the focus went. */
  async function after(from: string, change: () => void): Promise<string> {
    at(from).focus();
    expect(document.activeElement?.id).toBe(from);
    change();
    await new Promise((resolve) => setTimeout(resolve));
    return document.activeElement?.id ?? '';
  }

  beforeEach(() => {
    setUp();
    TestBed.inject(FocusKeeper);
    root = document.body.appendChild(document.createElement('main'));
  });
  afterEach(() => {
    root.remove();
    TestBed.resetTestingModule();
  });

  it('goes to the head of what came in its place, not to a text field in it', async () => {
    put('<h1 id="top">Jobs</h1><div id="place"><button id="begin">Begin</button></div>');
    const to = await after('begin', () => {
      at('place').innerHTML = '<input id="field"><h2 id="head">Step 1</h2><button id="done">Done</button>';
    });
    expect(to).toBe('head');
  });

  it('goes to the next row of a list, to the one before where it was the last, and to the head of the part after the only one', async () => {
    put('<section><h2 id="head">Rows</h2><ul id="list"><li id="a"><button id="ba">x</button></li><li id="b"><button id="bb">x</button></li></ul></section>');
    expect(
      await after('ba', () => {
        at('a').remove();
      }),
    ).toBe('bb');
    at('list').insertAdjacentHTML('afterbegin', '<li id="c"><button id="bc">x</button></li>');
    expect(
      await after('bb', () => {
        at('b').remove();
      }),
    ).toBe('bc');
    expect(
      await after('bc', () => {
        at('c').remove();
      }),
    ).toBe('head');
  });

  it('stays at a button that is shut for a while: what stands beside it must not be pressed by the next Enter', async () => {
    put('<div><button id="undo">Undo</button><button id="redo">Redo</button></div>');
    expect(
      await after('undo', () => {
        (at('undo') as HTMLButtonElement).disabled = true;
      }),
    ).not.toBe('redo');
  });

  it('skips what cannot be seen, and what cannot be pressed', async () => {
    put('<div><button id="a">x</button><button id="hid" hidden>x</button><button id="off" disabled>x</button><button id="b">x</button></div>');
    expect(
      await after('a', () => {
        at('a').remove();
      }),
    ).toBe('b');
  });

  it('stays where somebody put it, and where what is removed did not hold it', async () => {
    put('<h1 id="top">Jobs</h1><button id="a">x</button><button id="b">x</button><button id="c">x</button>');
    expect(
      await after('a', () => {
        at('a').remove();
        at('c').focus();
      }),
    ).toBe('c');
    expect(
      await after('c', () => {
        at('b').remove();
      }),
    ).toBe('c');
    // Somebody who left it for the page itself is not called back.
    (document.activeElement as HTMLElement).blur();
    at('top').remove();
    await new Promise((resolve) => setTimeout(resolve));
    expect(document.activeElement).toBe(document.body);
  });
});
