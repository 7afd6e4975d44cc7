/** The parts of the service's answers that the command uses; /openapi.json tells them whole. */
import type { Finding } from "@corbix/core/common";
import type { Decision } from "@corbix/core/table";

export interface RunAnswer {
  readonly id: string;
  readonly report: string;
  readonly title: string;
  readonly data: string;
  readonly edition: number;
  readonly period: string;
  readonly periodLabel: string;
  readonly state: string;
  readonly rehearsalTo: string | null;
  /** It is released by itself when no finding stops it. */
  readonly goesOn: boolean;
  readonly parcelCount: number;
  readonly sentences: readonly string[];
  readonly findings: readonly Finding[];
  readonly progress: {
    readonly parcels: Readonly<Record<string, number>>;
    readonly messages: Readonly<Record<string, number>>;
  };
  readonly proof: {
    readonly mayBeReleased: boolean;
    readonly files: { readonly planned: number; readonly made: number };
    readonly messages: number;
    readonly people: number;
  } | null;
  readonly error: {
    readonly code: string;
    readonly message: string;
    readonly where?: string;
    readonly advice?: string;
  } | null;
  readonly createdAt: string;
}

export interface ParcelAnswer {
  readonly number: number;
  readonly label: string;
  readonly rowCount: number;
  readonly totals: Readonly<Record<string, string>>;
  readonly state: string;
  readonly files: readonly {
    readonly id: string;
    readonly path: string;
    readonly kind: string;
    readonly size: number;
  }[];
  readonly message: {
    readonly state: string;
    readonly response: string | null;
    readonly envelope: {
      readonly to: readonly Person[];
      readonly cc: readonly Person[];
      readonly bcc: readonly Person[];
    };
  } | null;
}

export interface Person {
  readonly address: string;
  readonly name?: string;
}

export interface EditionAnswer {
  readonly dataset: string;
  readonly number: number;
  readonly origin: string;
  readonly rowCount: number;
  readonly headerRow: number;
  readonly reading: Readonly<Record<string, string>>;
  readonly columns: readonly { readonly name: string; readonly type: string }[];
  readonly leftOut: readonly { readonly reason: string; readonly count: number }[];
  readonly decisions: readonly Decision[];
  readonly appended: { readonly added: number; readonly replaced: number } | null;
  readonly findings: readonly Finding[];
  readonly createdAt: string;
}

export interface ReportAnswer {
  readonly name: string;
  readonly number: number;
  readonly source: string;
  readonly definition: {
    readonly title: string;
    readonly data: string;
    readonly schedule?: { readonly rule: string; readonly at: string; readonly zone: string };
  };
  readonly nextTimes: readonly string[];
}
