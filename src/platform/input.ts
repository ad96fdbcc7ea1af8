import { z } from "zod";
import { DAYS_TAKEN, inBounds } from "@/core/time/day";

/** An id as it comes from outside: the sender's own, or one of ours. */
export const idSchema = z.string().min(1).max(200);

/** A day that something is to be dated to. */
export const dayInput = z.iso.date("This isn't a day that exists.").refine(inBounds, `This isn't a day that can be meant: ${DAYS_TAKEN}.`);
