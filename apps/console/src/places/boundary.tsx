import { Component, type ReactNode } from 'react';
import { View } from 'react-native';
import { isOutdated, reloadOnce } from '../live/build';
import { Button } from '../ui/button';
import { Notice, Page } from '../ui/page';
import { Body } from '../ui/text';

interface BoundaryProps {
  /** Where one is: another place is tried afresh. */
  path: string;
  children: ReactNode;
}

/**
 * What breaks breaks one place, and says so: a fault of the program, or a part of it that could not be loaded. When the station has another
 * version by now, the page loads itself again; what is being written is kept on the device.
 */
export class PlaceBoundary extends Component<BoundaryProps, { fault: Error | null }> {
  override state: { fault: Error | null } = { fault: null };

  static getDerivedStateFromError(fault: unknown) {
    return { fault: fault instanceof Error ? fault : new Error(String(fault)) };
  }

  override componentDidCatch() {
    void isOutdated().then((outdated) => outdated && reloadOnce(Date.now()));
  }

  override componentDidUpdate({ path }: BoundaryProps) {
    if (this.state.fault && path !== this.props.path) this.setState({ fault: null });
  }

  override render() {
    const { fault } = this.state;
    if (!fault) return this.props.children;
    return (
      <Page title="This place broke">
        <Notice kind="alarm" title="It could not be shown">
          <Body>
            A part of the page could not be loaded, or failed. What you were writing is kept on this device, and the
            station is not concerned: it goes on.
          </Body>
          <Body soft>{fault.message.slice(0, 300)}</Body>
        </Notice>
        <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 8 }}>
          <Button title="Try again" onPress={() => this.setState({ fault: null })} />
          <Button title="Load the page again" kind="plain" onPress={() => location.reload()} />
          <Button title="Go to Traffic" kind="plain" href="/traffic" />
        </View>
      </Page>
    );
  }
}
