import { servicesFile, type KeptService } from '@tombolo/contract';
import { serviceRoutes } from '@tombolo/contract/routes/services';
import { counted } from '@tombolo/core';
import { router } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';
import { useDrafts } from '../../../drafts/drafts';
import { ask, urlOf } from '../../../live/ask';
import { useChange } from '../../../live/queries';
import { useServices } from '../../../live/services';
import { Button } from '../../../ui/button';
import { Row, Stack } from '../../../ui/layout';
import { Empty, Notice, Page, Rule, Trouble, Waiting } from '../../../ui/page';
import { Body, Mono } from '../../../ui/text';
import { FileBox } from '../file-box';
import { Learn } from './learn';
import { ServiceForm } from './service-form';

/** The directory of services: what is reached by a text to an address, how it is worded, and what its answers prove. */
export function ServicesPlace() {
  const services = useServices();
  const [open, setOpen] = useState<{ address: string; as: 'form' | 'learn' } | null>(null);
  const [adding, setAdding] = useState(false);
  const [removed, setRemoved] = useState<KeptService | null>(null);
  const remove = useChange(
    ({ address }: KeptService) => ask(serviceRoutes.removeService, { params: { address } }),
    ['services'],
  );
  const putBack = useChange(
    ({ revision: _revision, ...service }: KeptService) =>
      ask(serviceRoutes.keepService, { params: { address: service.address }, body: { service, revision: null } }),
    ['services'],
  );
  const toggle = (address: string, as: 'form' | 'learn') =>
    setOpen(open?.address === address && open.as === as ? null : { address, as });
  return (
    <Page title="Services">
      <Body soft below={12}>
        A text to such an address is a command: to a phone, for mail, to a group. Each gateway words its own; enter
        those of your district, or read them from a file.
      </Body>
      {services.isPending ? <Waiting what="the services" /> : null}
      {services.isError ? <Trouble error={services.error} retry={() => void services.refetch()} /> : null}
      {services.data?.length === 0 ? (
        <Empty icon="book-open-outline" title="No service yet">
          What a gateway of your district takes and answers is entered here once, and written by a form from then on.
        </Empty>
      ) : null}
      <View role="list" aria-label="Services">
        {services.data?.map((service) => (
          <View key={service.address} role="listitem">
            <ServiceRow
              service={service}
              change={() => toggle(service.address, 'form')}
              learn={() => toggle(service.address, 'learn')}
              busy={remove.isPending && remove.variables.address === service.address}
              remove={() => remove.mutate(service, { onSuccess: () => setRemoved(service) })}
            />
            {open?.address === service.address ? (
              open.as === 'form' ? (
                <ServiceForm key={service.revision} service={service} leave={() => setOpen(null)} />
              ) : (
                <Learn service={service} />
              )
            ) : null}
          </View>
        ))}
      </View>
      {removed ? (
        <Notice title={`${removed.name} is off the directory`}>
          <Button
            title="Put back"
            about={removed.name}
            kind="plain"
            busy={putBack.isPending}
            onPress={() => putBack.mutate(removed, { onSuccess: () => setRemoved(null) })}
          />
        </Notice>
      ) : null}
      {remove.isError || putBack.isError ? (
        <Notice kind="alarm" title="Not changed">
          {(remove.error ?? putBack.error)!.message}
        </Notice>
      ) : null}
      {adding ? (
        <ServiceForm service={null} leave={() => setAdding(false)} />
      ) : (
        <Stack align="start" above={12}>
          <Button title="Add a service" icon="plus" kind="plain" onPress={() => setAdding(true)} />
        </Stack>
      )}
      <Rule />
      <FileBox
        what="services"
        words="To carry to another station. A service of the same address is replaced."
        schema={servicesFile}
        fileUrl={() => urlOf(serviceRoutes.servicesFile, {})}
        empty={(services.data?.length ?? 0) === 0}
        take={(file) => ask(serviceRoutes.importServices, { body: file })}
        counted={(file) => counted(file.services.length, 'service')}
        stale={['services']}
      />
    </Page>
  );
}

interface ServiceRowProps {
  service: KeptService;
  change: () => void;
  learn: () => void;
  remove: () => void;
  busy: boolean;
}

function ServiceRow({ service, change, learn, remove, busy }: ServiceRowProps) {
  const writeTo = useDrafts((store) => store.writeTo);
  return (
    <Stack padY={10} gap={4} ruled>
      <Body bold>{service.name}</Body>
      <Mono>{`${service.address}${service.reached ? ` · ${service.reached}` : ''}`}</Mono>
      <Body>{service.purpose}</Body>
      <Body soft>{service.commands.map(({ title }) => title).join(' · ')}</Body>
      <Row wrap gap={8}>
        <Button
          title="Write by it"
          about={service.name}
          kind="plain"
          onPress={() => {
            const draft = writeTo({ addressee: service.address, answers: null, way: 'service' });
            router.navigate(`/write?draft=${draft}`);
          }}
        />
        <Button title="Change" about={service.name} kind="plain" onPress={change} />
        <Button title="What it said" about={service.name} kind="plain" onPress={learn} />
        <Button title="Remove" about={service.name} kind="plain" busy={busy} onPress={remove} />
      </Row>
    </Stack>
  );
}
