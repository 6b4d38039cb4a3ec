import { offOf } from '@tombolo/contract';
import { z } from 'zod';
import { create } from 'zustand';
import { createJSONStorage, persist } from 'zustand/middleware';
import { planOf } from './plan';

export const MOST_KEPT = 20;
export const LONGEST_NAME = 40;
/** More would not stand beside each other on a phone. */
export const MOST_BESIDE = 3;

/** In place of a mesh: all ways to everybody on the list of people. */
export const EVERYBODY = 'everybody';

const keptPlan = z
  .object({
    name: z.string().trim().min(1).max(LONGEST_NAME),
    /** As it stands in an address: what is otherwise in a net, or what is thought off of all ways. */
    plan: z.string(),
    /** The bearer of the mesh that it is about; empty for packet radio, `EVERYBODY` for all ways. */
    mesh: z.string().max(64).default(''),
  })
  .refine(({ plan, mesh }) => (mesh === EVERYBODY ? offOf(plan) : planOf(plan)).length > 0);
export type KeptPlan = z.infer<typeof keptPlan>;

interface KeptPlans {
  readonly plans: readonly KeptPlan[];
  /** Keeps a plan by a name; what was kept of the same net by that name goes. */
  readonly keep: (plan: KeptPlan) => void;
  readonly remove: (plan: KeptPlan) => void;
}

const NAME = 'tombolo-plans';
const whole = z.object({ plans: z.array(z.unknown()) });
const without = (plans: readonly KeptPlan[], { name, mesh }: KeptPlan) =>
  plans.filter((one) => one.name !== name || one.mesh !== mesh);

/** Plans of a net thought otherwise, kept on this device by name. */
export const useKeptPlans = create<KeptPlans>()(
  persist(
    (set) => {
      // Another tab may have kept one meanwhile. A browser that keeps nothing has nothing to read again.
      const change = (next: (plans: readonly KeptPlan[]) => readonly KeptPlan[]) => {
        void (useKeptPlans.persist as typeof useKeptPlans.persist | undefined)?.rehydrate();
        set(({ plans }) => ({ plans: next(plans) }));
      };
      return {
        plans: [],
        keep: (plan) => change((plans) => [...without(plans, plan), plan].slice(-MOST_KEPT)),
        remove: (plan) => change((plans) => without(plans, plan)),
      };
    },
    {
      name: NAME,
      storage: createJSONStorage(() => localStorage),
      partialize: ({ plans }) => ({ plans }),
      // What is kept may be of another version, or broken: one that cannot be read takes no other with it.
      merge: (stored, current) => {
        const read = whole.safeParse(stored);
        const plans = read.success ? read.data.plans.map((one) => keptPlan.safeParse(one)) : [];
        return { ...current, plans: plans.flatMap((one) => (one.success ? [one.data] : [])).slice(-MOST_KEPT) };
      },
    },
  ),
);

const names = z.array(z.string().max(LONGEST_NAME)).max(MOST_BESIDE);

/** Which plans stand beside each other, as it stands in an address, and back. */
export const besideText = (chosen: readonly string[]): string => (chosen.length === 0 ? '' : JSON.stringify(chosen));
export function besideOf(text: string): readonly string[] {
  try {
    const read = names.safeParse(text === '' ? [] : JSON.parse(text));
    return read.success ? [...new Set(read.data)] : [];
  } catch {
    return [];
  }
}
