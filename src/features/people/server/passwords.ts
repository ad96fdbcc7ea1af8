import { hash } from "@node-rs/argon2";
import { dictionary } from "@zxcvbn-ts/language-common";
import { z } from "zod";

/** A password’s hash by Argon2id, with its own salt. */
export const hashPassword = (password: string) => hash(password);

/** The password of everybody in the demo company. It is printed, so nobody else can have it. */
export const DEMO_PASSWORD = "porch-light";

const LEAST = 10;

const COMMON: ReadonlySet<string> = new Set(dictionary["passwords-common"] as readonly string[]);
/** Letters for the signs that stand for them. */
const SIGNS: Readonly<Record<string, string>> = { "0": "o", "1": "i", "3": "e", "4": "a", "5": "s", "7": "t", "@": "a", $: "s", "!": "i" };
const ROWS = ["abcdefghijklmnopqrstuvwxyz", "01234567890", "qwertyuiop", "asdfghjkl", "zxcvbnm", "qwertzuiop", "yxcvbnm"];

/** A password without what is put around a common one: figures and signs at its ends, signs for letters. */
function cores(password: string): string[] {
	const small = password.toLowerCase();
	const bare = small.replace(/^[^a-z]+|[^a-z]+$/g, "");
	const letters = (text: string) => [...text].map((letter) => SIGNS[letter] ?? letter).join("");
	const spelt = letters(small);
	return [small, bare, spelt, letters(bare), letters(small.replace(/[^a-z0-9]+$/, "")), spelt.replace(/^[^a-z]+|[^a-z]+$/g, "")].filter(
		(one) => one.length > 3,
	);
}

const plain = (text: string) => text.replace(/[^a-z]/g, "");

/** Whether a password is one word or row of keys again and again, or one letter. */
function repeats(password: string): boolean {
	const small = password.toLowerCase();
	if (new Set(small).size < 4 || /^(.{1,5})\1+.{0,4}$/.test(small)) return true;
	return ROWS.some((row) => [row, [...row].reverse().join("")].some((one) => one.length > 6 && small.length <= one.length * 2 && (one + one).includes(small)));
}

/**
 * Why a password can't be taken, in words; null where it can. `about` is what others know of the person.
 *
 * @example passwordFault("lantern", []) // "A password has at least 10 letters; a few words that you remember are best."
 */
export function passwordFault(password: string, about: readonly (string | null)[]): string | null {
	if (password.length < LEAST) return `A password has at least ${LEAST} letters; a few words that you remember are best.`;
	if (cores(password).some((core) => plain(core) === plain(DEMO_PASSWORD))) return "This is the demo company’s password, which everyone knows; choose another.";
	if (cores(password).some((core) => COMMON.has(core)) || repeats(password))
		return "This password is too common; choose a few words that don’t belong together.";
	const small = password.toLowerCase();
	const own = about.flatMap((text) => (text ?? "").toLowerCase().split(/[^a-z0-9]+/)).filter((part) => part.length > 3);
	if (own.some((part) => small.replace(part, "").replace(/[^a-z]/g, "").length < 4))
		return "This password contains your name or address; choose a few words that have nothing to do with you.";
	return null;
}

export const passwordInput = z.string().min(1, "Enter a password.").max(1000, "A password has at most 1000 letters.");
