/** What can be known of sending before anything is made: that the identity may send as the report asks, and to whom. */

import { CorbixError, columnKey, type Finding, groupKey, suggestName } from "@corbix/core/common";
import type { Recipient } from "@corbix/core/recipients";
import { fixedCopies, type Report } from "@corbix/core/report";
import type { PlannedParcel } from "@corbix/core/run";
import { say } from "@corbix/core/words";
import { getIdentity, mayReceive, type OpenIdentity } from "../mail/identities.js";
import type { Context } from "../process/context.js";
import { allIdentities, newestRecipients } from "../records/index.js";

/** Checks a definition's delivery when it is saved. Throws `BAD_DEFINITION` with the place. */
export async function checkDelivery(context: Context, report: Report): Promise<void> {
  await checkWays(context, report);
  if (!report.message) return;
  const { delivery } = report;
  const identity = await getIdentity(context, delivery.from).catch((error: unknown) => {
    if (!(error instanceof CorbixError) || error.code !== "NOT_FOUND") throw error;
    throw new CorbixError("BAD_DEFINITION", error.message, {
      where: say().serviceRun.delivery(),
      ...(error.advice === undefined ? {} : { advice: error.advice }),
    });
  });
  if (delivery.sender !== undefined && !maySendAs(identity, delivery.sender))
    throw new CorbixError(
      "BAD_DEFINITION",
      say().serviceRun.cannotSend({ sender: delivery.sender, notSender: notSender(identity) }),
      {
        where: "delivery, sender",
        advice: say().serviceRun.addAddressIdentitySSenders(),
      },
    );
  checkNarrow(delivery.narrow ?? {}, (await newestRecipients(context.database))?.recipients ?? []);
  const named = [
    ...fixedCopies(delivery.copies).map((address) => ["delivery, copies", address] as const),
    ...fixedCopies(delivery.blindCopies).map((address) => ["delivery, blindCopies", address] as const),
  ];
  const wrong = named.find(([, address]) => !mayReceive(identity.settings, address));
  if (wrong)
    throw new CorbixError(
      "BAD_DEFINITION",
      say().serviceRun.cannotSendDomain({ wrong: wrong[1], notDomain: notDomain(identity) }),
      {
        where: wrong[0],
        advice: say().serviceRun.correctAddressAddDomainIdentity(),
      },
    );
}

/** A way out has to be there before a report goes by it. */
async function checkWays(context: Context, report: Report): Promise<void> {
  const [name] = await missingWays(context, report);
  if (name === undefined) return;
  throw new CorbixError("BAD_DEFINITION", say().serviceWays.unknownWay({ name }), {
    where: say().serviceWays.findingWhere({ name }),
    advice: suggestName(
      name,
      (await allIdentities(context.database, "way")).map((one) => one.name),
      say().serviceWays.waysOut(),
    ),
  });
}

async function missingWays(context: Context, report: Report): Promise<string[]> {
  const wanted = Object.keys(report.waysOut);
  if (wanted.length === 0) return [];
  const known = new Set((await allIdentities(context.database, "way")).map((one) => one.name));
  return wanted.filter((name) => !known.has(name));
}

/** By whom and which ways a report goes out, as they are now. */
export interface Senders {
  /** Nothing where the report has no message. */
  readonly identity: OpenIdentity | undefined;
  /** Ways out of the report that are not there. */
  readonly missing: readonly string[];
}

export async function readSenders(context: Context, report: Report): Promise<Senders> {
  return {
    identity: report.message ? await getIdentity(context, report.delivery.from) : undefined,
    missing: await missingWays(context, report),
  };
}

/** Ways out that are not there by now stop a run; a rehearsal says that nothing goes by them. */
function wayFindings(report: Report, missing: readonly string[], isRehearsed: boolean): Finding[] {
  const ways = Object.keys(report.waysOut);
  if (isRehearsed && ways.length > 0)
    return [
      {
        code: "not-in-rehearsal",
        severity: "note",
        where: "waysOut",
        what: say().serviceWays.notInRehearsal({ ways: ways.join(", ") }),
        advice: say().serviceWays.nothingToDo(),
      },
    ];
  return missing.map((name) =>
    stop(
      "way-unknown",
      say().serviceWays.findingWhere({ name }),
      say().serviceWays.unknownWay({ name }),
      say().serviceWays.setItUp(),
    ),
  );
}

/** A field or value that nobody of the list has would leave everybody out. */
function checkNarrow(
  narrow: Readonly<Record<string, string | readonly string[]>>,
  recipients: readonly Recipient[],
): void {
  if (recipients.length === 0) return;
  const fields = [...new Set(recipients.flatMap((recipient) => Object.keys(recipient.fields)))];
  for (const [field, wanted] of Object.entries(narrow)) {
    const known = fields.find((one) => columnKey(one) === columnKey(field));
    if (known === undefined)
      throw new CorbixError("BAD_DEFINITION", say().serviceRun.cannotNarrowRecipientListSuch({ field }), {
        where: say().serviceRun.deliveryNarrow(),
        advice: suggestName(field, fields, "fields"),
      });
    const values = [...new Set(recipients.map((recipient) => recipient.fields[known] ?? ""))].filter(Boolean);
    for (const value of typeof wanted === "string" ? [wanted] : wanted)
      if (!values.some((one) => groupKey(one) === groupKey(value)))
        throw new CorbixError("BAD_DEFINITION", say().serviceRun.cannotNarrowNobodyList({ value, known }), {
          where: say().serviceRun.deliveryNarrow(),
          advice: suggestName(value, values, "values"),
        });
  }
}

/** The same for a run's plan, with its people: what is not allowed by now stops it, before anything is released. */
export function deliveryFindings(
  report: Report,
  parcels: readonly PlannedParcel[],
  rehearsalTo: string | null,
  { identity, missing }: Senders,
): Finding[] {
  const ways = wayFindings(report, missing, rehearsalTo !== null);
  if (!identity) return ways;
  const { delivery } = report;
  const findings: Finding[] = [...ways];
  if (delivery.sender !== undefined && !maySendAs(identity, delivery.sender))
    findings.push(
      stop(
        say().serviceRun.senderAllowed(),
        "delivery, sender",
        say().serviceRun.wouldSent({ sender: delivery.sender, notSender: notSender(identity) }),
        say().serviceRun.addSenderThenRun(),
      ),
    );
  const fixed = fixedCopies([...delivery.copies, ...delivery.blindCopies]);
  const places: (readonly [string, readonly string[]])[] =
    rehearsalTo === null
      ? [
          ["delivery, copies", fixed],
          ...parcels.map(
            (parcel) =>
              [
                say().place.group({ name: parcel.group.label }),
                parcel.recipients.flatMap((one) =>
                  [...one.to, ...one.copies, ...one.blindCopies].map(({ address }) => address),
                ),
              ] as const,
          ),
        ]
      : [["rehearsal", [rehearsalTo]]];
  for (const [where, addresses] of places)
    for (const address of new Set(addresses))
      if (!mayReceive(identity.settings, address))
        findings.push(
          stop(
            say().serviceRun.domainAllowed(),
            where,
            say().serviceRun.wouldGo({ address, notDomain: notDomain(identity) }),
            say().serviceRun.correctThenRun(),
          ),
        );
  return findings;
}

export function maySendAs(identity: Pick<OpenIdentity, "settings">, address: string): boolean {
  return identity.settings.senders.some((one) => one.toLowerCase() === address.toLowerCase());
}

function notSender(identity: OpenIdentity): string {
  return say().serviceRun.identityMaySend({ name: identity.name });
}

export function notDomain(identity: OpenIdentity): string {
  return say().serviceRun.identityMaySendOnly({ name: identity.name, domains: identity.settings.domains.join(", ") });
}

function stop(code: string, where: string, what: string, advice: string): Finding {
  return { code, severity: "stop", where, what, advice };
}
