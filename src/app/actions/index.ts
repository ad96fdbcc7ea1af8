"use server";
import { cookies, headers } from "next/headers";
import { redirect } from "next/navigation";
import { z } from "zod";
import { createKey, keySchema, revokeKey } from "@/features/people/server/keys";
import { signIn, signInSchema, signOut } from "@/features/people/server/signIn";
import { changeClock } from "@/features/setup/server/changeClock";
import { changeTask, changeTaskSchema } from "@/features/tasks/server/changeTask";
import { assignSchema, assignTasks, takeBackTasks } from "@/features/tasks/server/giveTasks";
import { Fault } from "@/platform/fault";
import { SESSION_COOKIE } from "@/platform/http/session";
import type { AssignInput, TaskInput } from "@/ui/actions";
import { act, idSchema } from "./act";

export async function assignAction(input: AssignInput) {
	return act(async (context) => {
		const done = await assignTasks(context, assignSchema.parse(input));
		return { ids: done.tasks.map((task) => task.id), kept: done.kept, afterClose: done.afterClose };
	});
}

export async function takeBackAction(ids: string[]) {
	return act(async (context) => ({ count: await takeBackTasks(context, z.array(idSchema).max(500).parse(ids)) }));
}

export async function changeTaskAction(id: string, input: TaskInput) {
	return act(async (context) => {
		await changeTask(context, idSchema.parse(id), changeTaskSchema.parse(input));
		return {};
	});
}

export async function createKeyAction(name: string) {
	return act(async (context) => ({ token: (await createKey(context, keySchema.parse({ name }))).token }));
}

export async function revokeKeyAction(id: string) {
	return act(async (context) => {
		await revokeKey(context, idSchema.parse(id));
		return {};
	});
}

export async function holdDayAction(day: string | null) {
	return act(async (context) => {
		await changeClock(context, z.string().max(10).nullable().parse(day));
		return {};
	});
}

export async function setThemeAction(theme: "light" | "dark") {
	const value = z.enum(["light", "dark"]).parse(theme);
	(await cookies()).set("porch_lamp_theme", value, { path: "/", sameSite: "lax", maxAge: 365 * 86_400 });
}

export async function signOutAction() {
	const jar = await cookies();
	const token = jar.get(SESSION_COOKIE)?.value;
	if (token) await signOut(token);
	jar.delete(SESSION_COOKIE);
	redirect("/sign-in");
}

export interface SignInState {
	readonly email: string;
	readonly error: string | null;
}

export async function signInAction(_: SignInState, form: FormData): Promise<SignInState> {
	const email = String(form.get("email") ?? "").slice(0, 400);
	const parsed = signInSchema.safeParse({ email, password: form.get("password") ?? "" });
	if (!parsed.success) return { email, error: parsed.error.issues.map((issue) => issue.message).join(" ") };
	const head = await headers();
	try {
		const { token, expires } = await signIn(parsed.data, head.get("x-forwarded-for")?.split(",")[0]?.trim() || "direct");
		(await cookies()).set(SESSION_COOKIE, token, {
			httpOnly: true,
			sameSite: "lax",
			path: "/",
			expires,
			secure: head.get("x-forwarded-proto") === "https",
		});
	} catch (error) {
		if (error instanceof Fault) return { email, error: error.detail };
		throw error;
	}
	const to = String(form.get("to") ?? "");
	redirect(/^\/(?![/\\])/.test(to) ? to : "/");
}
