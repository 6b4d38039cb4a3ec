import type { ReactNode } from 'react';
import { View } from 'react-native';
import { Row } from '../ui/layout';
import { useLook } from '../ui/look';

/** List, detail and perhaps a third column beside each other on a wide screen. */
export function Columns({ list, detail, third }: { list: ReactNode; detail: ReactNode; third?: ReactNode }) {
  const look = useLook();
  const edge = { borderLeftWidth: 1, borderLeftColor: look.rule };
  return (
    <Row fill minHeight={0}>
      {/* On paper goes what was opened, not the list that it stands in. */}
      <View {...({ dataSet: { paper: 'no' } } as object)} style={{ width: 360 }}>
        {list}
      </View>
      <View style={[{ flex: 1.2, minWidth: 0 }, edge]}>{detail}</View>
      {third ? <View style={[{ flex: 1, minWidth: 0 }, edge]}>{third}</View> : null}
    </Row>
  );
}
