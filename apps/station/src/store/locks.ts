/** Numbers of PostgreSQL's advisory locks, all in one place, so that none is used for two things. */

/** One that migrates at a time. */
export const SCHEMA_LOCK = 7_300_001;
/** One change of the settings at a time. */
export const SETTINGS_LOCK = 7_300_002;
/** One writer at a time decides what is a copy, also when several stations share the database. */
export const INGEST_LOCK = 7_300_003;
/** One look at a time into the account of automatic air time. */
export const AIR_TIME_LOCK = 7_300_004;

/** First key of two: the second is the standing rule. Its holder counts what the rule did and does more, or not. */
export const RULE_LOCK = 7302;
/** First key of two: the second is the bearer. Its holder runs it. */
export const BEARER_LOCK = 7300;
/** First key of two: the second is the bearer. Its holder holds a session with it. */
export const SESSION_LOCK = 7301;
/** First key of two: the second is the kind of job. Its holder takes an occurrence. */
export const JOB_LOCK = 7303;
/** Its holder makes anew what is derived. */
export const REMAKE_LOCK = 7_300_005;
/** One change of the list of people at a time. */
export const PEOPLE_LOCK = 7_300_006;
/** One change of the equipment at a time: pieces belong to each other. */
export const EQUIPMENT_LOCK = 7_300_007;
/** One change of the causes that operators added at a time. */
export const READY_LOCK = 7_300_008;
/** One change of the directory of services at a time. */
export const SERVICES_LOCK = 7_300_009;
/** First key of two: the second is the item. Its holder queues it. */
export const ITEM_LOCK = 7304;
