import { Row, Stack } from '../../../ui/layout';
import { Body, Mono } from '../../../ui/text';

/** One point in every form. */
export const WrittenForms = ({ forms }: { forms: readonly { readonly name: string; readonly text: string }[] }) => (
  <Row wrap columnGap={24}>
    {forms.map(({ name, text }) => (
      <Stack key={name} padY={6} minWidth={260}>
        <Body soft>{name}</Body>
        <Mono selectable>{text}</Mono>
      </Stack>
    ))}
  </Row>
);
