import { lookup } from "node:dns";
import { BlockList, isIP, type LookupFunction } from "node:net";
import { config } from "@/config/config";

/** Addresses of one's own machine and network, and those that lead nowhere (RFC 6890). */
const INSIDE = new BlockList();
for (const [net, bits] of [
	["0.0.0.0", 8],
	["10.0.0.0", 8],
	["100.64.0.0", 10],
	["127.0.0.0", 8],
	["169.254.0.0", 16],
	["172.16.0.0", 12],
	["192.0.0.0", 24],
	["192.0.2.0", 24],
	["192.168.0.0", 16],
	["198.18.0.0", 15],
	["198.51.100.0", 24],
	["203.0.113.0", 24],
	["224.0.0.0", 4],
	["240.0.0.0", 4],
] as const)
	INSIDE.addSubnet(net, bits, "ipv4");
for (const [net, bits] of [
	// IPv4 in IPv6 clothes of several fashions, each of which may lead to any IPv4 address.
	["::", 96],
	["::ffff:0:0:0", 96],
	["2002::", 16],
	["2001::", 32],
	["64:ff9b:1::", 48],
	["fec0::", 10],
	["fc00::", 7],
	["fe80::", 10],
	["ff00::", 8],
	["2001:db8::", 32],
	["64:ff9b::", 96],
] as const)
	INSIDE.addSubnet(net, bits, "ipv6");

/** Whether an IP address lies inside one's own network; what isn't one counts as inside. */
export function isInside(address: string): boolean {
	// An IPv4 address in IPv6 clothes is what it is.
	const plain = /^::ffff:(\d+\.\d+\.\d+\.\d+)$/i.exec(address)?.[1] ?? address;
	const family = isIP(plain);
	if (family === 0) return true;
	return INSIDE.check(plain, family === 4 ? "ipv4" : "ipv6") || /^::ffff:/i.test(plain);
}

/** The setting that lets webhooks and feeds call addresses inside one's own network. */
const SETTING = "PORCH_LAMP_HOOKS_INSIDE";

/** Whether the host of an address, as it is written, lies inside: an IP address that does, or a name of this machine. */
export function namesInside({ hostname }: URL): boolean {
	const name = hostname
		.replace(/^\[|\]$/g, "")
		.replace(/\.+$/, "")
		.toLowerCase();
	if (name === "" || name === "localhost" || name.endsWith(".localhost")) return true;
	return /^[\d.]+$|:/.test(name) && isInside(name);
}

/** Whether an address may be called although it lies inside: a setting allows all, and the receiver that ships is always allowed, by its very address. */
export const insideAllowed = (url: URL): boolean => config()[SETTING] === "on" || url.href === config().PORCH_LAMP_RECEIVER;

/** Finds the addresses of a name, and refuses those inside our own network: the one that was looked at is the one that is called. */
export const outside: LookupFunction = (host, options, done) =>
	lookup(host, { ...options, all: true }, (error, addresses) => {
		if (error) return done(error, "");
		const found = addresses as unknown as { address: string; family: number }[];
		const inside = found.find(({ address }) => isInside(address));
		if (inside) return done(new Error(`${host} is inside our own network (${inside.address})`) as NodeJS.ErrnoException, "");
		if (options.all) return done(null, found as never);
		done(null, found[0]?.address ?? "", found[0]?.family);
	});
