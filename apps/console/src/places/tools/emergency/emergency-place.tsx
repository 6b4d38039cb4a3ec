import type { EmergencyNow, Settings } from '@tombolo/contract';
import { useSettings } from '../../../live/queries';
import { Notice, Page, Rule, Trouble, Waiting } from '../../../ui/page';
import { Body } from '../../../ui/text';
import { SentPositions } from '../position/sent-positions';
import { useEmergencyNow } from './at-station';
import { Calling } from './calling';
import { Prepare } from './prepare';

/** Our own call for help: prepared, counted down, sent until it is ended. */
export function EmergencyPlace() {
  const settings = useSettings();
  const now = useEmergencyNow();
  const failed = [settings, now].find(({ isError }) => isError);
  return (
    <Page title="Call for help">
      <Notice kind="alarm" title="This is no rescue service">
        <Body>
          Where a phone works, call the emergency number first. By radio you are heard only by who listens now; say it
          by voice as well, and go on until somebody answers.
        </Body>
      </Notice>
      {settings.isPending || now.isPending ? <Waiting what="whether we call" /> : null}
      {failed?.error ? (
        <Trouble error={failed.error} retry={() => void Promise.all([settings.refetch(), now.refetch()])} />
      ) : null}
      {settings.data && now.data ? <Either settings={settings.data} now={now.data} /> : null}
      <Rule />
      <SentPositions />
    </Page>
  );
}

const Either = ({ settings, now }: { settings: Settings; now: EmergencyNow }) =>
  now.own ? <Calling own={now.own} now={now} /> : <Prepare settings={settings} now={now} />;
