// npm run reader: how reporting tools reach the views of the schema porch_lamp_read.
import { borrowDatabase } from "./lib/borrow.mjs";
import { ensurePostgres } from "./lib/packages.mjs";
import { dataFolder } from "./lib/paths.mjs";
import { Halt, main, say } from "./lib/say.mjs";

await main(async () => {
	if (process.env.DATABASE_URL) throw new Halt("DATABASE_URL names a database of your own: make the role porch_lamp_reader there, as docs/reading.md says.");
	await ensurePostgres();
	await borrowDatabase(dataFolder(), ({ readerUrl }) => {
		say("Reporting tools on this machine read the schema porch_lamp_read, while the program runs, at");
		say(`  ${readerUrl}`);
	});
});
