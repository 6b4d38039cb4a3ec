import type { PathSchool } from '@tombolo/core';
import { createContext, useContext, type ReactNode } from 'react';

const Shown = createContext<ReactNode>(null);

/** What every part of Write shows under its text; whoever shows the parts says what. */
export const UnderTextProvider = Shown.Provider;

export const UnderText = (): ReactNode => useContext(Shown);

/** A path by which somebody may be reached, as it was reckoned, and why. */
export interface ProposedPath {
  readonly to: string;
  readonly school: PathSchool;
  readonly reason: string;
  /** Chance that it arrives by it. */
  readonly arrives: number;
  /** Whether it has shown that it works: what is only believed is not taken unasked. */
  readonly shown: boolean;
  /** How often a text goes out by it at most; null for as often as the settings say. */
  readonly times: number | null;
}

const Paths = createContext<readonly ProposedPath[]>([]);

/** By which paths what is written may go, the best first: one place reckons it, and the parts of Write ask there. */
export const ProposedPathsProvider = Paths.Provider;

export const useProposedPaths = (): readonly ProposedPath[] => useContext(Paths);
