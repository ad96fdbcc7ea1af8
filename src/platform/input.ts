import { z } from "zod";

/** An id as it comes from outside: the sender's own, or one of ours. */
export const idSchema = z.string().min(1).max(200);
