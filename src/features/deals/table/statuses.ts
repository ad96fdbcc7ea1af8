/** Which of a viewpoint's deals a list shows: those that are open and due in its period, or those that were won or lost in it. */
export const STATUSES = ["open", "won", "lost"] as const;
export type Status = (typeof STATUSES)[number];
