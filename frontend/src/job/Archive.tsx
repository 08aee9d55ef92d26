import { api } from "../api/client";
import { MadeFile } from "./MadeFile";

/** All files of the draft in one archive. */
export function Archive({ id }: { id: string }) {
  return (
    <div data-testid="archive">
      <MadeFile
        id={id}
        ask={() => api.askWork(id, { kind: "package" })}
        words="All of them in one archive"
        file="archive.zip"
      />
    </div>
  );
}
