import { writeFile } from "node:fs/promises";
import { RIGHTS_DOC, rightsDocument } from "../features/rightsTable";

// npm run rights: writes the table of rights anew from the lists.
await writeFile(RIGHTS_DOC, rightsDocument());
process.stdout.write(`${RIGHTS_DOC} is written.\n`);
