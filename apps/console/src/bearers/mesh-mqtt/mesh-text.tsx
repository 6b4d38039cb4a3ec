import { addressesOf, bearerKind, locksOf, personNamed, type Addressee } from '@tombolo/contract';
import {
  checkMeshText,
  meshAirTimeMs,
  meshTextFrameOctets,
  mostMeshTextOctets,
  octetsOfText,
  parseNodeNumber,
} from '@tombolo/core';
import { View } from 'react-native';
import { KnownOf } from '../../live/known-of';
import { useBearers, usePeople, useSettings } from '../../live/queries';
import { useMeshNodes } from '../../live/sessions';
import { Choice } from '../../ui/choice';
import { Field } from '../../ui/field';
import { PhraseChips } from '../../phrases/phrase-chips';
import { Offers } from '../../ui/offers';
import { Notice, Waiting } from '../../ui/page';
import { Body } from '../../ui/text';
import { useDraft } from '../../drafts/drafts';
import { leftOfHourMs } from './hour';
import { asItGoes, broughtWords, HandOver } from '../hand-over';
import { LongText, textsOf } from '../long-text';
import { peopleToOffer, reachedBy, toAddress, toPerson } from '../people';
import { SendButton, useSending } from '../sending';
import { UnderText } from '../under-text';
import { Urgency } from '../urgency';

/** A text into the mesh: to one node, which acknowledges, or to everybody on a channel. */
export default function MeshText() {
  const bearers = useBearers();
  const nodes = useMeshNodes();
  const settings = useSettings();
  const people = usePeople();
  const draft = useDraft();
  const { send, busy, error } = useSending();
  const mesh = bearers.data?.find(({ config, enabled }) => enabled && config.kind === 'mesh-mqtt');
  if (!mesh || mesh.config.kind !== 'mesh-mqtt' || !settings.data) return <Waiting what="the mesh" />;
  const { channels, radio } = mesh.config;
  const channel = channels.find(({ name }) => name === draft.channel) ?? channels[0]!;
  const known = nodes.data?.filter(({ bearerId }) => bearerId === mesh.id) ?? [];
  const typed = draft.addressee.trim().toUpperCase();
  const number = parseNodeNumber(typed);
  const withNode = reachedBy('node', people.data ?? []);
  const person = personNamed(draft.addressee, withNode);
  const wanted = person ? addressesOf(person, 'node')[0]! : typed;
  const named = known.filter(({ tag, node }) => tag === wanted || (number.ok && node === number.value));
  // Anybody can call his node by any tag: of two the number decides.
  const node = named.length === 1 ? named[0] : undefined;
  // Everybody only when that was said: a node that is not found is nobody.
  const whom: Addressee | null = draft.everybody
    ? { is: 'everybody' }
    : node
      ? person
        ? toPerson(person)
        : toAddress(node.node)
      : null;
  // A key that the station keeps is not told here; that there is one is.
  const sealed = channel.kept || channel.key !== null;
  const whole = asItGoes(draft, draft.body);
  const { texts, problem } = textsOf({ ...draft, body: whole }, mostMeshTextOctets(sealed), (one) =>
    checkMeshText(one, sealed),
  );
  const frameOctets = (problem === null ? texts : [whole]).reduce(
    (sum, one) => sum + meshTextFrameOctets(one, sealed),
    0,
  );
  const airMsOf = (one: string) => (radio ? meshAirTimeMs(meshTextFrameOctets(one, sealed), radio) : null);
  const airMs = radio ? (problem === null ? texts : [whole]).reduce((sum, one) => sum + (airMsOf(one) ?? 0), 0) : null;
  const leftMs = mesh.duty && leftOfHourMs(mesh.duty);
  const costs = [
    texts.length > 1
      ? `${octetsOfText(whole).length} octets in ${texts.length} texts`
      : `${octetsOfText(whole).length} of ${mostMeshTextOctets(sealed)} octets`,
    `${frameOctets} on the air${sealed ? ', sealed' : ''}`,
    airMs === null ? null : `${(airMs / 1000).toFixed(2)} s, and again at each node that repeats it`,
    leftMs == null ? null : `${(leftMs / 1000).toFixed(1)} s of the hour left`,
  ];
  const toProblem =
    named.length > 1
      ? `${named.length} nodes call themselves ${wanted}: give the number, ${named.map((one) => one.node).join(' or ')}`
      : wanted !== '' && !node
        ? person
          ? `${person.name}’s node ${wanted} was not heard yet`
          : `No node ${wanted} was heard`
        : undefined;
  return (
    <View>
      <Choice<'node' | 'everybody'>
        label="For"
        value={draft.everybody ? 'everybody' : 'node'}
        onChange={(whom) => draft.change({ everybody: whom === 'everybody', answers: null })}
        options={[
          { id: 'node', title: 'One node', hint: 'It acknowledges the text.' },
          {
            id: 'everybody',
            title: 'Everybody on the channel',
            hint: 'At best heard repeated: nobody acknowledges it.',
          },
        ]}
      />
      {draft.everybody ? null : (
        <>
          <Field
            label="To node"
            mono
            value={draft.addressee}
            onChangeText={(addressee) => draft.change({ addressee, answers: null })}
            autoCapitalize="characters"
            maxLength={60}
            error={toProblem}
            hint={
              draft.answers
                ? 'This answers the text you opened.'
                : known.length > 0
                  ? `Heard: ${known.map(({ tag }) => tag).join(', ')}.`
                  : 'No node was heard yet.'
            }
          />
          <Offers
            label="People"
            words={peopleToOffer(draft.addressee, withNode)}
            choose={(addressee) => draft.change({ addressee, answers: null })}
          />
          <KnownOf who={draft.addressee} />
        </>
      )}
      <Choice
        label="Channel"
        value={channel.name}
        onChange={(name) => draft.change({ channel: name })}
        options={channels.map(({ name, key, kept }) => ({
          id: name,
          title: name,
          hint:
            key || kept ? 'Private: sealed with AES-256; whoever has the key reads it.' : 'Open: everybody reads it.',
        }))}
      />
      <Field
        label="Text"
        value={draft.body}
        onChangeText={(body) => draft.change({ body })}
        multiline
        error={draft.body === '' ? undefined : (problem ?? undefined)}
        hint={costs.filter(Boolean).join(' · ')}
      />
      <LongText
        settings={settings.data}
        mostOctets={mostMeshTextOctets(sealed)}
        airS={(one) => {
          const oneMs = airMsOf(one);
          return oneMs === null ? null : oneMs / 1000;
        }}
        unplain={false}
      />
      <PhraseChips text={draft.body} change={(body) => draft.change({ body })} />
      <HandOver />
      <UnderText />
      {radio ? null : (
        <Notice kind="alarm" title="No frequency is set">
          It waits until the frequency and the modem setting of the mesh are set, under Bearers.
        </Notice>
      )}
      {airMs !== null && leftMs != null && airMs > leftMs ? (
        <Notice title="The hour’s air time is used up">
          {`${mesh.duty!.words}: it waits in the queue and goes out when enough of what was sent is an hour old.`}
        </Notice>
      ) : null}
      <Urgency triedHere />
      <SendButton
        locks={locksOf(mesh.config.kind, settings.data)}
        licence={bearerKind(mesh.config.kind).amateurBand}
        settings={settings.data}
        title={
          draft.everybody
            ? `Send ${texts.length > 1 ? `${texts.length} texts ` : ''}by mesh to everybody on ${channel.name}`
            : `Send ${texts.length > 1 ? `${texts.length} texts ` : ''}by mesh to ${node?.tag ?? 'a node'} on ${channel.name}${broughtWords(draft)}, ask for acknowledgement`
        }
        disabled={!whom ? 'Say first whom it is for.' : problem === null ? false : 'It needs a text that fits.'}
        busy={busy}
        error={error}
        onPress={() =>
          whom &&
          send({
            addressee: whom,
            content: { is: 'text', body: whole, inParts: draft.inParts && texts.length > 1 },
            way: { by: 'texts', bearerId: mesh.id, channel: channel.name },
            answers: draft.answers,
          })
        }
      />
      <Body soft above={8}>
        Antenna before power: a node without one can destroy its output stage.
      </Body>
    </View>
  );
}
