import { photoAddress, type KeptRecord } from "../api/client";

const KINDS: Partial<Record<KeptRecord["kind"], string>> = {
  refusal: "stopped",
  top: "rod on top",
  plumb: "off plumb",
  insulation: "to earth",
  current: "running",
  loaded: "all of it there",
  short: "missing",
  asked: "asked for",
  passed: "passed",
  failed: "not passed",
};
const IN_WORDS: KeptRecord["kind"][] = ["asked", "passed", "failed", "loaded"];

/** What was measured or said of one thing, by whom, with its note and its photo. */
export function Told({ job, records }: { job: string; records: KeptRecord[] }) {
  return records.map((record) => (
    <p key={record.id} className="px-1 text-[14px]">
      <span className="figure font-semibold">{IN_WORDS.includes(record.kind) ? KINDS[record.kind] : record.text}</span>
      {record.beside && ` at ${record.beside}`} by {record.by}
      {IN_WORDS.includes(record.kind) && ` on ${new Date(record.at).toLocaleDateString()}`}
      {KINDS[record.kind] && !IN_WORDS.includes(record.kind) && `, ${KINDS[record.kind]}`}
      {record.note && `: ${record.note}`}
      {record.photo && (
        <a className="link ml-2 inline-block min-h-11 content-center" href={photoAddress(job, record.photo)}>
          photo
        </a>
      )}
    </p>
  ));
}
