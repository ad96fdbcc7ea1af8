import { bigint, index, pgTable, text } from "drizzle-orm/pg-core";
import { instant } from "./columns";
import { people } from "./people";

/** What somebody signs in with instead of a password and a code (Web Authentication): the public half of a key that their device keeps. */
export const passkeys = pgTable(
	"passkeys",
	{
		/** as the device names it, base64url */
		id: text("id").primaryKey(),
		personId: text("person_id")
			.notNull()
			.references(() => people.id, { onDelete: "cascade", onUpdate: "cascade" }),
		/** the same for all of a person: devices keep it, and it says nothing of them */
		handle: text("handle").notNull(),
		name: text("name").notNull(),
		/** COSE key (RFC 9052), base64url */
		publicKey: text("public_key").notNull(),
		/** how often the device says that it was used; 0 for those that don’t count */
		counter: bigint("counter", { mode: "number" }).notNull().default(0),
		transports: text("transports").array().notNull().default([]),
		createdAt: instant("created_at").notNull().defaultNow(),
		lastUsedAt: instant("last_used_at"),
	},
	(t) => [index("passkeys_person").on(t.personId)],
);

/** Links by which somebody sets their password; each works once. Kept as SHA-256 only. */
export const passwordLinks = pgTable("password_links", {
	tokenHash: text("token_hash").primaryKey(),
	personId: text("person_id")
		.notNull()
		.references(() => people.id, { onDelete: "cascade", onUpdate: "cascade" }),
	expiresAt: instant("expires_at").notNull(),
});
