CREATE TABLE `arrivals` (
	`id` text PRIMARY KEY NOT NULL,
	`station_id` text NOT NULL,
	`chain_id` text,
	`pid` integer NOT NULL,
	`started_at` text NOT NULL
);
