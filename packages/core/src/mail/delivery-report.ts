/** One recipient of a delivery report (RFC 3464 §2.3). */
export interface ReportedRecipient {
  readonly recipient: string;
  readonly action: 'delivered' | 'failed' | 'delayed' | 'relayed' | 'expanded';
  readonly status: string;
  readonly diagnostic: string | null;
}

export interface DeliveryReport {
  /** The ENVID that was given at submission (RFC 3461 §4.4). */
  readonly envelopeId: string | null;
  readonly reportingSystem: string | null;
  readonly recipients: readonly ReportedRecipient[];
}

const ACTIONS = ['delivered', 'failed', 'delayed', 'relayed', 'expanded'] as const;

/** `rfc822;office@ferry.example` → `office@ferry.example`. */
const typed = (value: string): string => value.replace(/^[^;]*;\s*/, '').trim();

/** Reads the body of a message/delivery-status part (RFC 3464 §2.1): groups of fields, an empty line between them. */
export function parseDeliveryStatus(text: string): DeliveryReport {
  const groups = text
    .replace(/\r\n?/g, '\n')
    .split(/\n[ \t]*\n/)
    .map((group) => {
      const fields = new Map<string, string>();
      for (const line of group.replace(/\n[ \t]+/g, ' ').split('\n')) {
        const found = /^([A-Za-z0-9-]+):(.*)$/.exec(line);
        if (found) fields.set(found[1]!.toLowerCase(), found[2]!.trim());
      }
      return fields;
    })
    .filter((fields) => fields.size > 0);
  const [message] = groups;
  const recipients = groups.flatMap((fields): ReportedRecipient[] => {
    const action = ACTIONS.find((known) => known === fields.get('action')?.toLowerCase());
    const recipient = fields.get('original-recipient') ?? fields.get('final-recipient');
    if (!action || !recipient) return [];
    const diagnostic = fields.get('diagnostic-code');
    return [
      {
        recipient: typed(recipient),
        action,
        status: fields.get('status') ?? '',
        diagnostic: diagnostic === undefined ? null : typed(diagnostic),
      },
    ];
  });
  return {
    envelopeId: message?.get('original-envelope-id') ?? null,
    reportingSystem: message?.has('reporting-mta') ? typed(message.get('reporting-mta')!) : null,
    recipients,
  };
}
