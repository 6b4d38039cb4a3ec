import type { ErrorBoundaryProps } from 'expo-router';
import { useEffect } from 'react';
import { isOutdated, reloadOnce } from '../live/build';
import { Button } from '../ui/button';
import { Row } from '../ui/layout';
import { Notice, Page } from '../ui/page';
import { Body } from '../ui/text';

/**
 * What a place shows that broke: by a fault of the program, or because a part of it could not be loaded. The other places go on. When the
 * station has another version by now, the page loads itself again; what is being written is kept on the device. Every route has it.
 */
export function ErrorBoundary({ error, retry }: Pick<ErrorBoundaryProps, 'error' | 'retry'>) {
  useEffect(() => {
    void isOutdated().then((outdated) => outdated && reloadOnce(Date.now()));
  }, []);
  return (
    <Page title="This place broke">
      <Notice kind="alarm" title="It could not be shown">
        <Body>
          A part of the page could not be loaded, or failed. What you were writing is kept on this device, and the
          station is not concerned: it goes on.
        </Body>
        <Body soft>{error.message.slice(0, 300)}</Body>
      </Notice>
      <Row wrap gap={8}>
        <Button title="Try again" onPress={() => void retry()} />
        <Button title="Load the page again" kind="plain" onPress={() => location.reload()} />
        <Button title="Go to Traffic" kind="plain" href="/traffic" />
      </Row>
    </Page>
  );
}
