import type { PathStatement } from '@tombolo/contract';
import { useState } from 'react';
import { View } from 'react-native';
import { Icon } from '../../ui/icon';
import { Row, Stack } from '../../ui/layout';
import { useLook } from '../../ui/look';
import { Body } from '../../ui/text';
import { Press } from '../../ui/press';

/** Proven sentences first. */
const inOrder = (statements: readonly PathStatement[]): PathStatement[] => [
  ...statements.filter(({ certain }) => certain),
  ...statements.filter(({ certain }) => !certain),
];

/** Sentences about a path, each marked certain or inferred; what they rest on opens at a press. */
export function PathStatements({ statements, label }: { statements: readonly PathStatement[]; label: string }) {
  const look = useLook();
  const [open, setOpen] = useState(false);
  if (statements.length === 0) return null;
  return (
    <Stack above={4}>
      <View role="list" aria-label={label}>
        {inOrder(statements).map(({ words, certain, facts }, i) => (
          <Row role="listitem" key={i} gap={8} padY={3}>
            <Icon name={certain ? 'check' : 'help'} size={18} color={certain ? look.tide : look.sandText} />
            <Stack fill>
              <Body>
                <Body bold>{certain ? 'Certain: ' : 'Inferred: '}</Body>
                {words}
              </Body>
              {open
                ? facts.map((fact) => (
                    <Body key={fact.words} soft>
                      {fact.from === 'supposition' ? `supposing that ${fact.words}` : `because ${fact.words}`}
                    </Body>
                  ))
                : null}
            </Stack>
          </Row>
        ))}
      </View>
      <Press
        role="button"
        aria-expanded={open}
        // Several stand on one page: each says of what.
        aria-label={`${open ? 'Hide what it rests on' : 'What does it rest on?'} ${label}`}
        onPress={() => setOpen(!open)}
        minHeight={48}
        justify="center"
        self="start"
      >
        <Body tone="tide">{open ? 'Hide what it rests on' : 'What does it rest on?'}</Body>
      </Press>
    </Stack>
  );
}
