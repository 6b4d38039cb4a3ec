import type { Service, ServiceCommand } from '@tombolo/core';

/** Commands that bring a text to a phone or a mailbox and ask for nothing more. */
export function reachesPeople(service: Service): {
  service: Service;
  command: ServiceCommand;
  field: string;
  sort: 'phone' | 'mail';
}[] {
  return service.commands.flatMap((command) => {
    const asked = command.fields.filter(({ optional }) => !optional);
    const far = asked.find(({ kind }) => kind === 'phone' || kind === 'mail');
    const plain = asked.length === 2 && asked.some(({ kind }) => kind === 'text');
    return far && plain ? [{ service, command, field: far.id, sort: far.kind as 'phone' | 'mail' }] : [];
  });
}
