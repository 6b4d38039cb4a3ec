import type { Content } from '@tombolo/contract';
import { endsWhenTaken, fillCommand, type ServiceQuestion } from '@tombolo/core';
import type { EntityManager } from 'typeorm';
import { ProblemError } from '../../problem-error';
import { serviceAt } from '../../services/directory';

type Command = Extract<Content, { is: 'command' }>;

/** A command to a service in the words of the directory, as it stands now; refuses in words what the service would refuse. */
export async function worded(
  manager: EntityManager,
  address: string,
  { command: id, values }: Command,
): Promise<{ readonly body: string; readonly question: ServiceQuestion; readonly asksAcknowledgement: boolean }> {
  const service = await serviceAt(manager, address);
  const command = service?.commands.find((one) => one.id === id);
  if (!service || !command)
    throw new ProblemError(
      422,
      'no-such-command',
      'That service is not there any more',
      `The directory has no such command of ${address}. Nothing was queued; choose again.`,
    );
  const filled = fillCommand(command, values);
  if (!filled.ok) {
    const [[field, fault]] = Object.entries(filled.faults) as [[string, string]];
    const title = command.fields.find((one) => one.id === field)?.title ?? field;
    throw new ProblemError(422, 'field', `${title} is not right`, `${title}: ${fault}. Nothing was queued.`);
  }
  return {
    body: filled.text,
    question: {
      address: service.address,
      command: command.id,
      values: filled.values,
      endsWhenTaken: endsWhenTaken(service, command.id),
    },
    asksAcknowledgement: command.asksAcknowledgement,
  };
}
