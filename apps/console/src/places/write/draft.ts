import type { PathSchool } from '@tombolo/core';
import { create } from 'zustand';
import { createJSONStorage, persist } from 'zustand/middleware';

export interface Draft {
  readonly addressee: string;
  readonly body: string;
  readonly askAcknowledgement: boolean;
  /** `own` is the path that was typed. */
  readonly school: PathSchool | 'own' | 'advised';
  readonly ownPath: string;
  /** The arrived item that this text answers. */
  readonly answers: string | null;
}

interface DraftStore extends Draft {
  readonly change: (change: Partial<Draft>) => void;
  readonly answer: (addressee: string, itemId: string | null) => void;
  /** After sending: the text goes, the addressee stays. */
  readonly sent: () => void;
}

const blank: Draft = {
  addressee: '',
  body: '',
  askAcknowledgement: true,
  school: 'advised',
  ownPath: '',
  answers: null,
};

/** The text being written survives a reload, a lost connection and a look elsewhere. */
export const useDraft = create<DraftStore>()(
  persist(
    (set) => ({
      ...blank,
      change: (change) => set(change),
      answer: (addressee, answers) => set({ addressee, answers, school: 'advised' }),
      sent: () => set({ body: '', answers: null }),
    }),
    { name: 'tombolo-draft', storage: createJSONStorage(() => localStorage) },
  ),
);
