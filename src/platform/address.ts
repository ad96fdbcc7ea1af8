import { config } from "@/config/config";

/** Where the program is reached from outside, as it stands in mails and calendars. */
export const address = (path = ""): string => `${(config().PORCH_LAMP_ADDRESS ?? "http://127.0.0.1:3000").replace(/\/+$/, "")}${path}`;
