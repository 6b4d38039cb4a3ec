import { View } from 'react-native';
import { useSettings } from '../live/queries';
import { useTimeWords } from '../live/preferences';
import { Button } from '../ui/button';
import { Icon } from '../ui/icon';
import { Row } from '../ui/layout';
import { useLook } from '../ui/look';
import { Body } from '../ui/text';

/** On every place while we call for help: nobody forgets that it goes out. */
export function OwnEmergencyBanner() {
  const timeWords = useTimeWords();
  const look = useLook();
  const { emergency } = useSettings().data ?? {};
  if (!emergency) return null;
  return (
    <View
      role="alert"
      style={{ padding: 10, gap: 6, borderBottomWidth: 2, borderBottomColor: look.alarm, backgroundColor: look.leaf }}
    >
      <Row gap={8} align="center">
        <Icon name="alert-octagram-outline" color={look.alarm} />
        <Body bold style={{ color: look.alarm, flex: 1 }}>
          {`${emergency.drill ? 'Drill: our call for help' : 'Our call for help'} goes out since ${timeWords(emergency.since)}`}
        </Body>
      </Row>
      <Button title="Show or end it" kind="plain" href="/tools/emergency" />
    </View>
  );
}
