/** What somebody on the buyer's side can be in the buying of a deal. */
export const BUYING_ROLES = ["decision_maker", "champion", "influencer", "user", "blocker", "unknown"] as const;
