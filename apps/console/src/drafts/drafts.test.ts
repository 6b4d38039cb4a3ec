import { act, renderHook } from '@testing-library/react';
import { written, writing } from '../testing/drafts';
import { draftInWords, isWritten, type Draft } from './draft';
import { useDraft, useDrafts } from './drafts';
import { keptDrafts } from './kept';

const store = () => useDrafts.getState();
const kept = (id: string) => localStorage.getItem(`tombolo-draft:${id}`);
const bodies = () => Object.values(store().drafts).map(({ body }) => body);
/** What another tab wrote, as this one is told. */
const told = (id: string, draft: Draft | null) =>
  dispatchEvent(new StorageEvent('storage', { key: `tombolo-draft:${id}`, newValue: draft && JSON.stringify(draft) }));

beforeEach(() => {
  localStorage.clear();
  writing();
});

describe('a draft', () => {
  it('is not touched when somebody else is answered, and is found again by its occasion', () => {
    store().writeTo({ addressee: 'QT1NC', way: 'radio', answers: null });
    store().change({ body: 'For QT1NC alone' });
    const first = store().open;
    const answer = store().writeTo({ addressee: 'QT4LB-8', way: 'radio', answers: 'an item', subject: '' });
    expect(answer).not.toBe(first);
    expect(written()).toMatchObject({ addressee: 'QT4LB-8', body: '', answers: 'an item' });
    store().change({ body: 'An answer' });
    expect(store().drafts[first]).toMatchObject({ to: { radio: 'QT1NC' }, body: 'For QT1NC alone' });
    // The same occasion leads to the same draft, however often.
    expect(store().writeTo({ addressee: 'qt1nc', way: 'radio', answers: null })).toBe(first);
    expect(store().writeTo({ addressee: 'elsewhere', way: 'mail', answers: 'an item' })).toBe(answer);
    expect(written().body).toBe('An answer');
    expect(store().writeTo({ addressee: 'QT1NC', way: 'radio', answers: 'another item' })).not.toBe(first);
  });

  it('has an addressee of its own for each way, and the text goes along', () => {
    store().change({ addressee: 'QT1NC', body: 'Water is rising' });
    store().change({ way: 'mesh' });
    expect(written()).toMatchObject({ addressee: '', body: 'Water is rising', everybody: false });
    store().change({ addressee: 'LSFARM' });
    store().change({ way: 'radio' });
    expect(written().addressee).toBe('QT1NC');
  });

  it('answers an item by the way that it came, and by no other', () => {
    store().writeTo({ addressee: 'QT1NC', way: 'radio', answers: 'an item' });
    store().change({ way: 'mail' });
    expect(written().answers).toBeNull();
    store().change({ way: 'radio' });
    expect(written().answers).toBe('an item');
    store().change({ addressee: 'QT1ND', answers: null });
    expect(written().answers).toBeNull();
  });

  it('is kept on the device from the first letter, with its files, and goes with all of it when it was sent', () => {
    const file = { name: 'list.txt', type: 'text/plain', base64: 'eA==', octets: 1 };
    store().change({ way: 'mail', addressee: 'a@b.example', cc: 'c@d.example', attachments: [file] });
    store().change({ way: 'radio' });
    store().change({ way: 'mail' });
    expect(written().attachments).toEqual([file]);
    const { open } = store();
    expect(keptDrafts(Date.now()).find(({ id }) => id === open)).toMatchObject({
      cc: 'c@d.example',
      attachments: [file],
    });
    store().sent(open);
    expect(kept(open)).toBeNull();
    expect(written()).toMatchObject({ addressee: '', cc: '', attachments: [] });
  });

  it('is taken back change by change, letters of one word together', () => {
    jest.useFakeTimers({ now: Date.now() });
    try {
      for (const body of ['A', 'Al', 'All']) store().change({ body });
      jest.advanceTimersByTime(5000);
      store().change({ body: 'All well' });
      store().change({ askAcknowledgement: false });
      store().undo();
      expect(written()).toMatchObject({ body: 'All well', askAcknowledgement: true });
      store().undo();
      expect(written().body).toBe('All');
      store().undo();
      expect(written().body).toBe('');
      store().undo();
      expect(written().body).toBe('');
    } finally {
      jest.useRealTimers();
    }
  });

  it('that was thrown away is put back as it was', () => {
    store().change({ addressee: 'QT1NC', body: 'Still wanted' });
    const { open } = store();
    store().discard(open);
    expect(bodies()).toEqual(['']);
    expect(kept(open)).toBeNull();
    store().putBack();
    expect(written()).toMatchObject({ id: open, addressee: 'QT1NC', body: 'Still wanted' });
    expect(kept(open)).not.toBeNull();
  });

  it('takes a late change that belongs to it, though another one is shown by then', () => {
    store().change({ body: 'First' });
    const { open } = store();
    store().startAnew();
    store().change({ attachments: [{ name: 'x', type: 'a/b', base64: '', octets: 0 }] }, open);
    expect(written().attachments).toEqual([]);
    expect(store().drafts[open]!.attachments).toHaveLength(1);
    store().discard(open);
    store().change({ body: 'Too late' }, open);
    expect(bodies()).toEqual(['']);
  });
});

describe('two tabs', () => {
  it('write different drafts without meeting, and the same one together', () => {
    store().change({ body: 'Mine' });
    const { open } = store();
    const mine = store().drafts[open]!;
    told('other', { ...mine, id: 'other', body: 'Theirs' });
    expect(bodies().sort()).toEqual(['Mine', 'Theirs']);
    expect(written().body).toBe('Mine');
    told(open, { ...mine, body: 'Mine, written on there' });
    expect(written().body).toBe('Mine, written on there');
  });

  it('cannot send the same draft twice: where it went out it is gone here too', () => {
    store().change({ addressee: 'QT1NC', body: 'Once' });
    const { open } = store();
    const { result } = renderHook(useDraft);
    expect(result.current.body).toBe('Once');
    act(() => void told(open, null));
    expect(result.current).toMatchObject({ body: '', addressee: '' });
    expect(store().open).not.toBe(open);
  });

  it('are not disturbed by keys of somebody else, or by what is no draft', () => {
    store().change({ body: 'Mine' });
    dispatchEvent(new StorageEvent('storage', { key: 'tombolo-light', newValue: '{}' }));
    localStorage.setItem('tombolo-draft:broken', '{"id":');
    localStorage.setItem('tombolo-draft:other', '{"id":"other"}');
    expect(keptDrafts(Date.now()).map(({ body }) => body)).toEqual(['Mine']);
  });
});

describe('what is kept', () => {
  it('takes over what an earlier version was writing, once', () => {
    const state = { way: 'mail', addressee: 'a@b.example', answers: null, body: 'Half written', school: 'advised' };
    localStorage.setItem('tombolo-draft', JSON.stringify({ state, version: 0 }));
    const [former] = keptDrafts(Date.now()).filter(({ body }) => body === 'Half written');
    expect(former).toMatchObject({ way: 'mail', to: { mail: 'a@b.example' }, occasion: null });
    expect(localStorage.getItem('tombolo-draft')).toBeNull();
    expect(keptDrafts(Date.now()).filter(({ body }) => body === 'Half written')).toHaveLength(1);
  });

  it('forgets after a day what was begun and never written', () => {
    store().writeTo({ addressee: 'QT1NC', way: 'radio', answers: null });
    const { open } = store();
    expect(keptDrafts(Date.now() + 3_600_000).some(({ id }) => id === open)).toBe(true);
    expect(keptDrafts(Date.now() + 25 * 3_600_000).some(({ id }) => id === open)).toBe(false);
    expect(kept(open)).toBeNull();
  });

  it('is nothing where the browser keeps nothing for pages, and writing goes on', () => {
    const refused = jest.spyOn(Storage.prototype, 'key').mockImplementation(() => {
      throw new DOMException('denied', 'SecurityError');
    });
    const gone = jest.spyOn(Storage.prototype, 'removeItem').mockImplementation(() => {
      throw new DOMException('denied', 'SecurityError');
    });
    store().change({ body: 'For now' });
    expect(keptDrafts(Date.now())).toEqual([]);
    store().sent(store().open);
    expect(bodies()).toEqual(['']);
    refused.mockRestore();
    gone.mockRestore();
  });

  it('says so when the device has no room', () => {
    const full = jest.spyOn(Storage.prototype, 'setItem').mockImplementation(() => {
      throw new DOMException('full', 'QuotaExceededError');
    });
    store().change({ body: 'Not kept' });
    expect(store().kept).toBe(false);
    expect(written().body).toBe('Not kept');
    full.mockRestore();
    store().change({ body: 'Kept again' });
    expect(store().kept).toBe(true);
  });

  it('is told in few words, and is nothing while nothing is written', () => {
    store().writeTo({ addressee: 'a@b.example', way: 'mail', answers: 'an item', subject: 'Re: List' });
    const draft = () => store().drafts[store().open]!;
    expect(isWritten(draft())).toBe(false);
    expect(draftInWords(draft())).toBe('To a@b.example: Re: List');
    store().change({ body: 'Yes' });
    expect(isWritten(draft())).toBe(true);
    expect(draftInWords(draft())).toBe('To a@b.example: Re: List – Yes');
    store().change({ way: 'mesh', everybody: true });
    expect(draftInWords(draft())).toBe('To everybody: Re: List – Yes');
    writing();
    expect(draftInWords(draft())).toBe('To nobody yet: nothing written');
  });
});
