import type { PathSchool } from '@tombolo/core';
import { create } from 'zustand';
import { createJSONStorage, persist } from 'zustand/middleware';

export interface Draft {
  /** The part of Write that it is written in. */
  readonly way: string;
  /** Of mail and of messages on boards. */
  readonly subject: string;
  readonly cc: string;
  readonly bulletin: boolean;
  /** Of the mesh: everybody on this channel, unless a node is chosen. */
  readonly channel: string;
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
  readonly answer: (addressee: string, itemId: string | null, way?: string, subject?: string) => void;
  /** After sending: the text goes, the addressee stays. */
  readonly sent: () => void;
}

const blank: Draft = {
  way: 'radio',
  subject: '',
  cc: '',
  bulletin: false,
  channel: '',
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
      answer: (addressee, answers, way = 'radio', subject = '') =>
        set({ addressee, answers, way, subject, school: 'advised' }),
      sent: () => set({ body: '', subject: '', answers: null }),
    }),
    { name: 'tombolo-draft', storage: createJSONStorage(() => localStorage) },
  ),
);
