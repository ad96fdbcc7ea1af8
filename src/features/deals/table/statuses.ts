/** Which of a viewpoint's deals a list shows: those that are open and due in its period, or those that were won or lost in it (closed: both). */
export const STATUSES = ["open", "won", "lost", "closed"] as const;
export type Status = (typeof STATUSES)[number];
