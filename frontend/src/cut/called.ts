/** What a stage is called where its name is two words. */
const TWO_WORDS: Record<string, string> = { fieldbook: "field book", handover: "hand-over" };

export const called = (stage: string) => TWO_WORDS[stage] ?? stage;
