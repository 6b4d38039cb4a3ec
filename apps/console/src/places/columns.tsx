import type { ReactNode } from 'react';
import { Row, Stack } from '../ui/layout';

/** List, detail and perhaps a third column beside each other on a wide screen. */
export const Columns = ({ list, detail, third }: { list: ReactNode; detail: ReactNode; third?: ReactNode }) => (
  <Row fill minHeight={0}>
    {/* On paper goes what was opened, not the list that it stands in. */}
    <Stack {...({ dataSet: { paper: 'no' } } as object)} width={360}>
      {list}
    </Stack>
    <Stack share={1.2} minWidth={0} ruledLeft>
      {detail}
    </Stack>
    {third ? (
      <Stack fill minWidth={0} ruledLeft>
        {third}
      </Stack>
    ) : null}
  </Row>
);
