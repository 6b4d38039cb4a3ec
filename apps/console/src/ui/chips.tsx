import { Button } from './button';
import { Row } from './layout';
import { OneLine } from './one-line';

interface ChipsProps<T extends string> {
  label: string;
  options: readonly { readonly id: T; readonly title: string }[];
  value: T;
  onChange: (value: T) => void;
  /** In one line that scrolls, where height is scarce. */
  line?: boolean;
}

/** One of a few, side by side. */
export function Chips<T extends string>({ label, options, value, onChange, line }: ChipsProps<T>) {
  const chips = options.map(({ id, title }) => (
    <Button key={id} title={title} kind="plain" selected={id === value} onPress={() => onChange(id)} />
  ));
  if (line)
    return (
      <OneLine role="group" aria-label={label}>
        <Row gap={6}>{chips}</Row>
      </OneLine>
    );
  return (
    <Row role="group" aria-label={label} wrap gap={8}>
      {chips}
    </Row>
  );
}
