import { z } from "zod";
import { type Context, contextFor } from "@/platform/context";
import { apiRoute, list, paging } from "@/platform/http/apiRoute";
import { reachOf } from "@/platform/reach";
import { reachAccount } from "@/platform/reachAccount";
import { accountJson, accountSchema } from "./accountJson";
import { accountLineOf } from "./accountLines";
import { accountChangeSchema, changeAccount, makeAccount, newAccountSchema } from "./editAccounts";
import { changeContact, contactChangeSchema, contactSchema, listContacts, makeContact, newContactSchema } from "./editContacts";
import { mergeAccounts, previewAccountMerge } from "./mergeAccounts";

/** An account as it is after a write. */
async function accountNow(context: Context, id: string) {
	const fresh = (await contextFor(context.actor.person.id)) ?? context;
	const { organisation, now, actor } = fresh;
	return accountJson(organisation, await accountLineOf(organisation, reachAccount(fresh, id), now.day, reachOf(organisation, actor)));
}

const mergeSchema = z
	.object({
		from: z.string(),
		into: z.string(),
		words: z.string().optional(),
		counts: z.record(z.string(), z.number().int()).optional(),
		merge: z.number().int().optional(),
	})
	.meta({ id: "AccountMerge" });

export const editRoutes = [
	apiRoute({
		by: makeAccount,
		id: "createAccount",
		method: "post",
		path: "/accounts",
		summary: "Make an account; the person who makes it owns it, unless another is named",
		status: 201,
		answer: accountSchema,
		body: newAccountSchema,
		run: async (context, { body }) => accountNow(context, (await makeAccount(context, body)).id),
	}),
	apiRoute({
		by: changeAccount,
		id: "changeAccount",
		method: "patch",
		path: "/accounts/{id}",
		summary: "Change an account; If-Match names the versionId that was seen. 412 says that it has changed since",
		status: 200,
		answer: accountSchema,
		body: accountChangeSchema,
		ifMatch: true,
		run: async (context, { body, params, version }) => {
			const { id } = await changeAccount(context, { id: params.id ?? "", versionId: version, change: body });
			return accountNow(context, id);
		},
	}),
	apiRoute({
		by: mergeAccounts,
		id: "mergeAccounts",
		method: "post",
		path: "/accounts/{id}/merge",
		summary: "Merge another account into this one; a dry run says what would move",
		status: 200,
		answer: mergeSchema,
		query: z.object({ dry_run: z.enum(["true", "false"]).optional() }),
		body: z.object({ from: z.string() }).strict().meta({ id: "MergeFrom" }),
		run: async (context, { body: { from }, params, query }) => {
			const into = params.id ?? "";
			if (query.dry_run === "true") {
				const { counts, words } = await previewAccountMerge(context, { from, into });
				return { from, into, counts, words };
			}
			const { merge } = await mergeAccounts(context, { from, into });
			return { from, into, merge };
		},
	}),
	apiRoute({
		by: listContacts,
		id: "listContacts",
		method: "get",
		path: "/contacts",
		summary: "The people of an account, by id",
		status: 200,
		answer: list(contactSchema),
		query: z.object({ account: z.string(), ...paging }),
		run: (context, { query }) => listContacts(context, query.account, query),
	}),
	apiRoute({
		by: makeContact,
		id: "createContact",
		method: "post",
		path: "/contacts",
		summary: "Make somebody of an account known",
		status: 201,
		answer: contactSchema,
		body: newContactSchema,
		run: (context, { body }) => makeContact(context, body),
	}),
	apiRoute({
		by: changeContact,
		id: "changeContact",
		method: "patch",
		path: "/contacts/{id}",
		summary: "Change a contact; If-Match names the versionId that was seen. A reporting line in a circle is refused with its names",
		status: 200,
		answer: contactSchema,
		body: contactChangeSchema,
		ifMatch: true,
		run: (context, { body, params, version }) => changeContact(context, { id: params.id ?? "", versionId: version, change: body }),
	}),
];
