import type { ItemDetail } from '@tombolo/contract';
import { serviceRoutes } from '@tombolo/contract/routes/services';
import { router } from 'expo-router';
import { useDrafts } from '../../drafts/drafts';
import { ask } from '../../live/ask';
import { useChange } from '../../live/queries';
import { useJoined } from '../../live/services';
import { Button } from '../../ui/button';
import { Stack } from '../../ui/layout';
import { Link } from '../../ui/link';
import { Notice } from '../../ui/page';
import { Body } from '../../ui/text';

/** What an arrived item answers, or which of several it may: somebody says so. */
export function Question({ item }: { item: ItemDetail }) {
  const say = useChange(
    (question: string) => ask(serviceRoutes.belongsTo, { params: { id: item.id }, body: { question } }),
    ['items', 'item'],
  );
  return (
    <>
      {item.question ? (
        <Stack below={8}>
          {item.person ? <Body bold>{`From ${item.person}, by ${item.sender}`}</Body> : null}
          <Link href={`/traffic/${item.question.id}`} minHeight={48} justify="center">
            <Body tone="tide">{`It answers “${item.question.body}”`}</Body>
          </Link>
        </Stack>
      ) : null}
      {item.mayAnswer.length > 0 ? (
        <Notice title="It fits more than one text of yours">
          <Body below={8}>
            Which it belongs to cannot be told by what it says: all of them stay open until you say.
          </Body>
          <Stack role="group" aria-label="It belongs to" gap={8} align="start">
            {item.mayAnswer.map(({ id, addressee, body }) => (
              <Button
                key={id}
                title={`It belongs to “${body}”`}
                about={addressee}
                kind="plain"
                busy={say.isPending && say.variables === id}
                onPress={() => say.mutate(id)}
              />
            ))}
          </Stack>
        </Notice>
      ) : null}
      {say.isError ? (
        <Notice kind="alarm" title="That did not work">
          {say.error.message}
        </Notice>
      ) : null}
    </>
  );
}

/** The same command again with changes, and the end of what it began. */
export function CommandAgain({ command }: { command: NonNullable<ItemDetail['command']> }) {
  const joined = useJoined();
  const startAnew = useDrafts((store) => store.startAnew);
  const change = useDrafts((store) => store.change);
  const write = (of: { address: string; command: string; values: Readonly<Record<string, string>> }) => {
    const { text = '', ...values } = of.values;
    const draft = startAnew();
    change({ way: 'service' });
    change({ addressee: of.address, command: of.command, values, body: text });
    router.navigate(`/write?draft=${draft}`);
  };
  const open = joined.data?.find(
    ({ address, values }) =>
      address === command.address && Object.entries(values).every(([id, value]) => command.values[id] === value),
  );
  return (
    <>
      {open ? (
        <Button
          title={`${open.title}: ${Object.values(open.values).join(' ')}`}
          kind="plain"
          onPress={() => write({ address: open.address, command: open.leave, values: open.values })}
        />
      ) : null}
      <Button title="Again, with changes" kind="plain" onPress={() => write(command)} />
    </>
  );
}
