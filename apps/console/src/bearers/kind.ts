import type { ComponentType } from 'react';
import type { Connection } from '@tombolo/core';
import type { BearerConfig, BearerConfigInput, BearerKindId, BearerView } from '@tombolo/contract';

/** A line of the form that adds a bearer. */
export interface BearerField {
  readonly name: string;
  readonly label: string;
  readonly hint?: string;
  readonly initial?: string;
  /** What the configuration calls it, where that is something else. */
  readonly key?: string;
}

/** A yes-or-no question of the form. */
export interface BearerSwitch {
  readonly name: string;
  readonly label: string;
  readonly hint: string;
}

/** What was entered into the form. */
export interface Entry {
  readonly texts: Readonly<Record<string, string>>;
  readonly switches: Readonly<Record<string, boolean>>;
  /** The modem that it goes over; empty for none. */
  readonly over: string;
}

/** A part of Write; kinds that carry the same share one. */
export interface Composer {
  readonly id: string;
  readonly title: string;
  /** Shown also while no bearer of its kinds is there: its form says what is missing. */
  readonly always?: boolean;
  readonly Form: ComponentType;
  /** Other parts of Write over the same bearers. */
  readonly further?: readonly Composer[];
}

/** How a modem that stands somewhere is made a bearer. */
export interface AtModem<Id extends BearerKindId> {
  /** The line by which this kind reaches a modem. */
  readonly by: Connection['by'];
  config(
    at: Connection,
    keyed: { readonly txDelayMs?: number; readonly frequencyMHz: number | null },
  ): BearerConfigInput<Id>;
  /** Whether a bearer of this kind works the modem that is there. */
  isAt(config: BearerConfig<Id>, at: Connection): boolean;
}

export interface OfBearer<Id extends BearerKindId> {
  readonly bearer: BearerView;
  readonly config: BearerConfig<Id>;
}

/** How the console shows a kind of bearer. */
export interface ConsoleKind<Id extends BearerKindId = BearerKindId> {
  readonly id: Id;
  readonly title: string;
  readonly hint: string;
  /** In front of where it leads, on its card. */
  readonly words: string;
  where(config: BearerConfig<Id>): string;
  readonly form: {
    readonly fields: readonly BearerField[];
    readonly switches?: readonly BearerSwitch[];
    /** It is called over a modem that must be there. */
    readonly overModem?: boolean;
    config(entry: Entry): BearerConfigInput<Id>;
  };
  /** More on its card. */
  readonly Details?: ComponentType<OfBearer<Id>>;
  /** The bearer from inside, and what the button says that leads there. */
  readonly inside?: { readonly title: string; readonly Place: ComponentType<OfBearer<Id>> };
  readonly composer?: Composer;
  readonly modem?: AtModem<Id>;
}
