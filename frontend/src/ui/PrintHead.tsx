interface Props {
  name: string;
  stage: string;
  revision: number;
  changed: boolean;
}

const quoted = (text: string) => `"${text.replace(/["\\\n]/g, " ")}"`;

/** On paper only: what the sheet is of, in the margin of every page and large at the head of the first. */
export function PrintHead({ name, stage, revision, changed }: Props) {
  const state = `revision ${revision}${changed ? ", changed since" : ""}`;
  const day = new Date().toISOString().slice(0, 10);
  const margin = `@page { margin: 16mm 12mm; @top-left { content: ${quoted(`${name}, ${stage}`)}; font-size: 9pt; } @top-right { content: ${quoted(`${state}, printed ${day}`)}; font-size: 9pt; } @bottom-right { content: counter(page) " of " counter(pages); font-size: 9pt; } }`;
  return (
    <>
      <style>{margin}</style>
      <header className="print-head hidden print:block">
        <p className="text-[22pt] leading-tight font-semibold">{stage}</p>
        <p>
          {name}, {state}, printed {day}
        </p>
      </header>
    </>
  );
}
