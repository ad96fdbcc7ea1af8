import { more, small } from "./bundle";

/** SMALL with people of the buyer's, activities, questions, quotes and reasons: what the inspection needs. */
export const inspected = (changes: Record<string, string[]> = {}) =>
	small({
		"contacts.csv": [
			"id,account_id,name,title,email,buying_role,reports_to_id",
			"c1,a1,Ada Holm,Owner,,decision_maker,",
			"c2,a1,Ben Rye,Baker,,champion,c1",
			"c3,a2,Cy Dale,Chef,,user,",
		],
		"deal_contacts.csv": ["deal_id,contact_id", "d1,c1", "d1,c2", "d2,c3"],
		"activities.csv": [
			"id,deal_id,account_id,contact_ids,kind,direction,state,at,by_id,subject,body",
			"x1,d1,a1,c1,email,in,done,2026-11-18T09:00:00Z,,Asks for a price,Chimney of 100% steel_pipe",
			"x2,d1,a1,c2,call,both,planned,2026-11-30T09:00:00Z,rep1,Call back,",
			"x3,d1,a1,c2,call,both,done,2026-11-12T09:00:00Z,rep1,First call,",
			"x4,d2,a2,c3,visit,both,done,2026-06-12T09:00:00Z,rep2,Visit,",
		],
		"questions.csv": ["id,area,prompt,help,weight,due_stage_position,key", "q1,Need,What hurts?,In their words,1,1,true", "q2,People,Who signs?,,3,2,true"],
		"answers.csv": ["deal_id,question_id,level,note,at,by_id", "d1,q1,heard,They said so,2026-11-12T09:00:00Z,rep1"],
		"orders.csv": ["account_id,date,product,amount,currency", "a1,2026-03-02,Deck oven,900,EUR", "a1,2025-03-02,Mixer,100,EUR", "a1,2024-03-02,Mixer,50,EUR"],
		"settings.json": [
			'{"timeZone":"Europe/Berlin","baseCurrency":"EUR","fiscalYearStartMonth":1,"weekend":[0,6],"today":"2026-11-24","outcomeReasons":["Price","No decision"],"activityKinds":{"demo":{"stagePosition":3}}}',
		],
		...changes,
	});
export { more };
