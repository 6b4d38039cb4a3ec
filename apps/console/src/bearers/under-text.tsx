import { createContext, useContext, type ReactNode } from 'react';

const Shown = createContext<ReactNode>(null);

/** What every part of Write shows under its text; whoever shows the parts says what. */
export const UnderTextProvider = Shown.Provider;

export const UnderText = (): ReactNode => useContext(Shown);
