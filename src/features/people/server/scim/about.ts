import { MOST, URN } from "./answer";

const CONFIG = "urn:ietf:params:scim:schemas:core:2.0:ServiceProviderConfig";
const TYPE = "urn:ietf:params:scim:schemas:core:2.0:ResourceType";
const SCHEMA = "urn:ietf:params:scim:schemas:core:2.0:Schema";
const not = { supported: false };

/** What of SCIM is spoken here (RFC 7643, 5). */
export const serviceConfig = (base: string) => ({
	schemas: [CONFIG],
	patch: { supported: true },
	bulk: { supported: false, maxOperations: 0, maxPayloadSize: 0 },
	filter: { supported: true, maxResults: MOST },
	changePassword: not,
	sort: not,
	etag: { supported: true },
	authenticationSchemes: [{ type: "oauthbearertoken", name: "API key", description: "A key of somebody of ops, kept to the area people.", primary: true }],
	meta: { resourceType: "ServiceProviderConfig", location: `${base}/ServiceProviderConfig` },
});

/** The kinds of resources (RFC 7643, 6). */
export const resourceTypes = (base: string) =>
	(["User", "Group"] as const).map((name) => ({
		schemas: [TYPE],
		id: name,
		name,
		endpoint: `/${name}s`,
		schema: name === "User" ? URN.user : URN.group,
		meta: { resourceType: "ResourceType", location: `${base}/ResourceTypes/${name}` },
	}));

const attribute = (name: string, type: string, more: Readonly<Record<string, unknown>> = {}) => ({
	name,
	type,
	multiValued: false,
	required: false,
	caseExact: false,
	mutability: "readWrite",
	returned: "default",
	uniqueness: "none",
	...more,
});
const part = (name: string) => attribute(name, "string");

/** The attributes that are kept of each (RFC 7643, 7). */
export const schemas = (base: string) =>
	[
		{
			id: URN.user,
			name: "User",
			attributes: [
				attribute("userName", "string", { required: true, uniqueness: "server" }),
				attribute("name", "complex", { subAttributes: ["formatted", "givenName", "familyName"].map(part) }),
				attribute("displayName", "string"),
				attribute("emails", "complex", { multiValued: true, subAttributes: [part("value"), part("type"), attribute("primary", "boolean")] }),
				attribute("active", "boolean"),
				attribute("groups", "complex", { multiValued: true, mutability: "readOnly", subAttributes: [part("value"), part("display")] }),
			],
		},
		{
			id: URN.group,
			name: "Group",
			attributes: [
				attribute("displayName", "string", { required: true, uniqueness: "server" }),
				attribute("members", "complex", { multiValued: true, subAttributes: [part("value"), part("display")] }),
			],
		},
	].map((one) => ({ schemas: [SCHEMA], ...one, meta: { resourceType: "Schema", location: `${base}/Schemas/${one.id}` } }));
