/** What a key does on the web; the types of React Native know nothing of keys. */
type KeyHandler = (event: KeyboardEvent & { readonly currentTarget: HTMLElement }) => void;
const onKeys = (onKeyDown: KeyHandler) => ({ onKeyDown }) as object;

/** Around one checkbox: Space turns it (ARIA Authoring Practices, Checkbox). */
export const turnedBySpace = (turn: () => void) =>
  onKeys((event) => {
    if (event.key !== ' ') return;
    event.preventDefault();
    turn();
  });

/** The next field of a form by Enter, as the key of a phone's keyboard promises; in several lines Enter stays what it is. */
export function nextFieldByEnter(form: HTMLElement): () => void {
  const onKey = (event: KeyboardEvent) => {
    if (event.key !== 'Enter' || event.ctrlKey || event.metaKey || event.isComposing) return;
    if (!(event.target instanceof HTMLInputElement)) return;
    const fields = [...form.querySelectorAll<HTMLElement>('input, textarea')];
    const next = fields[fields.indexOf(event.target) + 1];
    if (!next) return;
    event.preventDefault();
    next.focus();
  };
  // On the way down: a text field keeps its keys to itself on the way up.
  form.addEventListener('keydown', onKey, true);
  return () => form.removeEventListener('keydown', onKey, true);
}

const STEPS: Readonly<Record<string, number>> = { ArrowDown: 1, ArrowRight: 1, ArrowUp: -1, ArrowLeft: -1 };

/** Around radios: arrows choose the next one and take the focus along, Space the one with the focus (ARIA Authoring Practices, Radio Group). */
export const chosenByArrows = (choose: (index: number) => void) =>
  onKeys((event) => {
    const radios = [...event.currentTarget.querySelectorAll<HTMLElement>('[role="radio"]')];
    const at = radios.indexOf(event.target as HTMLElement);
    if (at < 0) return;
    const step = event.key === ' ' ? 0 : STEPS[event.key];
    if (step === undefined) return;
    event.preventDefault();
    const next = (at + step + radios.length) % radios.length;
    choose(next);
    radios[next]!.focus();
  });
