import { eq, sql } from "drizzle-orm";
import { storeKey } from "@/features/people/server/keys";
import { systemWrite } from "@/platform/write";
import { connection } from "../data/db";
import { people } from "../data/schema";

// npm run key -- EMAIL [NAME]: prints an API key that acts as a person.
const [email, name = "made on the command line"] = process.argv.slice(2);
const { db, close } = connection();
const [person] = email
	? await db
			.select()
			.from(people)
			.where(eq(sql`lower(${people.email})`, email.toLowerCase()))
	: [];
if (person) {
	const { token } = await systemWrite(async (tx) => {
		const made = await storeKey(tx, person.id, name);
		return { result: made, touched: "nothing", audit: { action: "key created on the command line", subject: made.id, detail: { name, person: person.id } } };
	});
	process.stdout.write(`${token}\n`);
} else {
	process.stderr.write(email ? `Nobody has the e-mail address ${email}.\n` : "Say whose key:  npm run key -- EMAIL\n");
	process.exitCode = 2;
}
await close();
