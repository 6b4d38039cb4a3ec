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
