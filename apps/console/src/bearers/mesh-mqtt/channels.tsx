import { parseInvitation } from '@tombolo/core';
import type { BearerConfig, BearerView, MeshChannel } from '@tombolo/contract';
import { useQuery } from '@tanstack/react-query';
import { create as createQr } from 'qrcode';
import { useMemo, useState } from 'react';
import { View } from 'react-native';
import Svg, { Rect } from 'react-native-svg';
import { api } from '../../live/api';
import { useChange } from '../../live/queries';
import { Button } from '../../ui/button';
import { Field } from '../../ui/field';
import { Icon } from '../../ui/icon';
import { Row, Stack } from '../../ui/layout';
import { Notice, Trouble, Waiting } from '../../ui/page';
import { RemoveButton } from '../../ui/remove-button';
import { Body, Heading, Mono } from '../../ui/text';

/** The channels of a mesh, with their invitations. */
export function Channels({ bearer, channels }: { bearer: BearerView; channels: readonly MeshChannel[] }) {
  const [shown, setShown] = useState<string | null>(null);
  const [text, setText] = useState('');
  const change = useChange(
    (next: readonly MeshChannel[]) =>
      api.changeBearer(bearer.id, { ...bearer.config, channels: [...next] } as BearerConfig),
    ['bearers'],
  );
  const invitation = parseInvitation(text);
  const known = invitation.ok && channels.some(({ name }) => sameName(name, invitation.value.name));
  const problem =
    text.trim() === ''
      ? undefined
      : !invitation.ok
        ? invitation.error.reason
        : known
          ? 'You are on a channel of that name. Its key is not replaced by an invitation: if it was really changed, forget the channel above first.'
          : undefined;
  const makePrivate = () => {
    const key = crypto.getRandomValues(new Uint8Array(32));
    const name = `Private ${channels.length}`;
    change.mutate([...channels, { name, key: btoa(String.fromCharCode(...key)), kept: false }], {
      onSuccess: () => setShown(name),
    });
  };
  return (
    <View>
      <Heading level={2}>Channels</Heading>
      {channels.map((channel) => (
        <Stack key={channel.name} below={12}>
          <Row gap={8} align="center">
            <Icon name={channel.kept ? 'lock-outline' : 'lock-open-variant-outline'} size={20} />
            <Body bold fill>
              {channel.name}
            </Body>
            <Body soft>{channel.kept ? 'private, AES-256' : 'open: everybody reads it'}</Body>
          </Row>
          <Row wrap gap={8}>
            <Button
              title={shown === channel.name ? 'Hide the invitation' : 'Show the invitation'}
              about={channel.name}
              kind="plain"
              onPress={() => setShown(shown === channel.name ? null : channel.name)}
            />
            {channels.length > 1 ? (
              <RemoveButton
                title="Forget this channel"
                about={channel.name}
                busy={change.isPending}
                onRemove={() => change.mutate(channels.filter(({ name }) => name !== channel.name))}
              />
            ) : null}
          </Row>
          {shown === channel.name ? <Invitation bearerId={bearer.id} channel={channel} /> : null}
        </Stack>
      ))}
      <Button title="Make a private channel" icon="plus" kind="plain" busy={change.isPending} onPress={makePrivate} />
      <Stack above={16}>
        <Field label="Invitation you got" mono value={text} onChangeText={setText} error={problem} />
        <Button
          title={invitation.ok && !known ? `Join ${invitation.value.name}` : 'Join the channel'}
          kind="plain"
          disabled={known ? 'You are in this channel.' : invitation.ok ? false : 'Paste an invitation first.'}
          busy={change.isPending}
          onPress={() =>
            invitation.ok &&
            change.mutate([...channels, { ...invitation.value, kept: false }], { onSuccess: () => setText('') })
          }
        />
      </Stack>
      {change.isError ? (
        <Notice kind="alarm" title="Not changed">
          {change.error.message}
        </Notice>
      ) : null}
    </View>
  );
}

const QUIET_MODULES = 4;

/** Names that look the same to a reader are the same. */
const sameName = (one: string, other: string): boolean =>
  one.normalize('NFKC').trim().toLowerCase() === other.normalize('NFKC').trim().toLowerCase();

/** Asked for on purpose: the key leaves the station for this alone, and that is on record. */
function Invitation({ bearerId, channel }: { bearerId: string; channel: MeshChannel }) {
  const invitation = useQuery({
    queryKey: ['invitation', bearerId, channel.name],
    queryFn: () => api.invitation(bearerId, channel.name),
    staleTime: Infinity,
    gcTime: 0,
  });
  if (invitation.isPending) return <Waiting what="the invitation" />;
  if (invitation.isLoadingError) return <Trouble error={invitation.error} retry={() => void invitation.refetch()} />;
  return <InvitationPicture channel={channel} line={invitation.data.line} />;
}

/** As a picture for another phone, and as a line to read out or to copy. */
function InvitationPicture({ channel, line }: { channel: MeshChannel; line: string }) {
  const { size, dark } = useMemo(() => {
    const { modules } = createQr(line, { errorCorrectionLevel: 'M' });
    const squares: { x: number; y: number }[] = [];
    for (let y = 0; y < modules.size; y++)
      for (let x = 0; x < modules.size; x++) if (modules.get(y, x)) squares.push({ x, y });
    return { size: modules.size, dark: squares };
  }, [line]);
  const whole = size + 2 * QUIET_MODULES;
  return (
    <Stack gap={8} above={8} align="start">
      <View role="img" aria-label={`Invitation to ${channel.name} as a QR code`}>
        {/* Cameras need dark on light, whatever the light of the screen. */}
        <Svg width={220} height={220} viewBox={`0 0 ${whole} ${whole}`} aria-hidden>
          <Rect x={0} y={0} width={whole} height={whole} fill="#f4efe3" />
          {dark.map(({ x, y }) => (
            <Rect
              key={`${x}/${y}`}
              x={x + QUIET_MODULES}
              y={y + QUIET_MODULES}
              width={1.02}
              height={1.02}
              fill="#19222c"
            />
          ))}
        </Svg>
      </View>
      <Mono selectable size={14}>
        {line}
      </Mono>
      {channel.kept ? (
        <Body soft>
          Whoever has this line can read the channel. Hand it over in person, never over an amateur band.
        </Body>
      ) : null}
    </Stack>
  );
}
