import type { KeptService, ServiceText } from '@tombolo/contract';
import { serviceRoutes } from '@tombolo/contract/routes/services';
import { PROVES, proposePattern, type Proves } from '@tombolo/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { View } from 'react-native';
import { ask } from '../../../live/ask';
import { useChange } from '../../../live/queries';
import { Button } from '../../../ui/button';
import { Choice } from '../../../ui/choice';
import { Instant } from '../../../ui/clock';
import { Field } from '../../../ui/field';
import { Stack } from '../../../ui/layout';
import { Notice, Trouble, Waiting } from '../../../ui/page';
import { Body, Heading } from '../../../ui/text';
import { PROVES_WORDS } from './written-service';

const MOST_SHOWN = 12;

/** What a service said that no pattern knows, and how one is made of it. */
export function Learn({ service }: { service: KeptService }) {
  const texts = useQuery({
    queryKey: ['services', 'texts', service.address, service.revision],
    queryFn: () => ask(serviceRoutes.serviceTexts, { params: { address: service.address } }),
  });
  const [chosen, choose] = useState<ServiceText | null>(null);
  if (texts.isPending) return <Waiting what="what it said" />;
  if (texts.isLoadingError) return <Trouble error={texts.error} retry={() => void texts.refetch()} />;
  const unknown = texts.data.filter(({ known }) => known === null);
  return (
    <Stack around={8}>
      <Heading level={3}>{`What ${service.address} said`}</Heading>
      <Body soft>
        {texts.data.length === 0
          ? 'Nothing came from it yet.'
          : `${texts.data.length} ${texts.data.length === 1 ? 'text' : 'texts'} lately, of which ${unknown.length} no pattern knows.`}
      </Body>
      <View role="list" aria-label="Texts that no pattern knows">
        {unknown.slice(0, MOST_SHOWN).map((text) => (
          <View key={text.id} role="listitem">
            <TextRow
              text={text}
              open={chosen?.id === text.id}
              choose={() => choose(chosen?.id === text.id ? null : text)}
            />
            {chosen?.id === text.id ? (
              <NewPattern service={service} text={text} texts={texts.data} done={() => choose(null)} />
            ) : null}
          </View>
        ))}
      </View>
    </Stack>
  );
}

function TextRow({ text, open, choose }: { text: ServiceText; open: boolean; choose: () => void }) {
  return (
    <Stack padY={8} gap={4} ruled>
      <Body selectable>{text.text}</Body>
      <Body soft>
        <Instant iso={text.at} />
      </Body>
      <Stack align="start">
        <Button title={open ? 'Leave it' : 'Make a pattern of it'} about={text.text} kind="plain" onPress={choose} />
      </Stack>
    </Stack>
  );
}

interface NewPatternProps {
  service: KeptService;
  text: ServiceText;
  texts: readonly ServiceText[];
  done: () => void;
}

function NewPattern({ service, text, texts, done }: NewPatternProps) {
  const [proves, setProves] = useState<Proves>('taken');
  const [typed, setTyped] = useState<string | null>(null);
  const pattern = typed ?? proposePattern(text.text, proves, text.asked && { values: text.asked });
  const tried = useQuery({
    queryKey: ['services', 'trial', service.address, pattern, texts.length],
    queryFn: () => ask(serviceRoutes.tryPattern, { params: { address: service.address }, body: { pattern } }),
    retry: false,
  });
  const keep = useChange(() => {
    const { revision, ...rest } = service;
    return ask(serviceRoutes.keepService, {
      params: { address: service.address },
      body: { service: { ...rest, answers: [...rest.answers, { pattern, proves, of: [] }] }, revision },
    });
  }, ['services']);
  const matched = new Set(tried.data?.matches);
  const found = texts.filter(({ id }) => matched.has(id));
  return (
    <Stack role="group" aria-label="A new pattern" padY={8}>
      <Choice<Proves>
        label="What it proves"
        options={PROVES.map((id) => ({ id, ...PROVES_WORDS[id] }))}
        value={proves}
        onChange={(next) => {
          setProves(next);
          setTyped(null);
        }}
      />
      <Field
        label="Pattern"
        mono
        autoCapitalize="none"
        value={pattern}
        onChangeText={setTyped}
        error={tried.isError ? tried.error.message : undefined}
        hint="Of the syntax of RE2; a group named like a field tells which text is answered"
      />
      <View aria-live="polite">
        {tried.data ? (
          <Body bold>{`It would know ${found.length} of the last ${tried.data.of}:`}</Body>
        ) : tried.isPending ? (
          <Waiting what="what it would know" />
        ) : null}
        {found.slice(0, 6).map(({ id, text: words, known }) => (
          <Body
            key={id}
          >{`– ${words}${known === null ? '' : ' (another pattern knows it already and comes first)'}`}</Body>
        ))}
      </View>
      {keep.isError ? (
        <Notice kind="alarm" title="Not kept">
          {keep.error.message}
        </Notice>
      ) : null}
      <Stack align="start" above={8}>
        <Button
          title="Keep the pattern"
          busy={keep.isPending}
          disabled={tried.isError ? 'It is no pattern.' : false}
          onPress={() => keep.mutate(undefined, { onSuccess: done })}
        />
      </Stack>
    </Stack>
  );
}
