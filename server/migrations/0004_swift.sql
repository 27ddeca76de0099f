CREATE TABLE `record` (
	`id` integer PRIMARY KEY NOT NULL,
	`epoch` text NOT NULL
);
--> statement-breakpoint
CREATE TABLE `round_means` (
	`round_id` text NOT NULL,
	`chain_id` text NOT NULL,
	`channel_id` text NOT NULL,
	`before` text NOT NULL,
	`at` text NOT NULL,
	`power_w` real NOT NULL,
	`forward_w` real,
	`rho` real,
	`expected_w` real,
	`low_w` real,
	`high_w` real,
	`expected_swr` real,
	`low_swr` real,
	`high_swr` real,
	PRIMARY KEY(`round_id`, `channel_id`, `before`),
	FOREIGN KEY (`round_id`) REFERENCES `rounds`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `means_of_channel` ON `round_means` (`chain_id`,`channel_id`,`at`);--> statement-breakpoint
PRAGMA foreign_keys=OFF;--> statement-breakpoint
CREATE TABLE `__new_readings` (
	`n` integer PRIMARY KEY NOT NULL,
	`id` text NOT NULL,
	`station_id` text NOT NULL,
	`chain_id` text NOT NULL,
	`round_id` text NOT NULL,
	`channel_id` text,
	`frequency_hz` real NOT NULL,
	`mode` text NOT NULL,
	`mean_to_peak` real,
	`power_w` real NOT NULL,
	`before` text NOT NULL,
	`place` text NOT NULL,
	`forward_w` real,
	`reflected_w` real,
	`swr` real,
	`range_w` real,
	`instrument_id` text,
	`instrument` text NOT NULL,
	`supply_v` real,
	`weather` text NOT NULL,
	`by` text NOT NULL,
	`note` text NOT NULL,
	`read_at` text NOT NULL,
	`expected_w` real,
	`low_w` real,
	`high_w` real,
	`expected_swr` real,
	`low_swr` real,
	`high_swr` real,
	`inside` integer NOT NULL,
	`chain_revision` integer,
	`deleted_at` text,
	FOREIGN KEY (`station_id`) REFERENCES `stations`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`chain_id`) REFERENCES `chains`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`round_id`) REFERENCES `rounds`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
INSERT INTO `__new_readings`("n", "id", "station_id", "chain_id", "round_id", "channel_id", "frequency_hz", "mode", "mean_to_peak", "power_w", "before", "place", "forward_w", "reflected_w", "swr", "range_w", "instrument_id", "instrument", "supply_v", "weather", "by", "note", "read_at", "expected_w", "low_w", "high_w", "expected_swr", "low_swr", "high_swr", "inside", "chain_revision", "deleted_at") SELECT rowid, "id", "station_id", "chain_id", "round_id", "channel_id", "frequency_hz", "mode", "mean_to_peak", "power_w", "before", "place", "forward_w", "reflected_w", "swr", "range_w", "instrument_id", "instrument", "supply_v", "weather", "by", "note", "read_at", "expected_w", "low_w", "high_w", "expected_swr", "low_swr", "high_swr", "inside", "chain_revision", "deleted_at" FROM `readings`;--> statement-breakpoint
DROP TABLE `readings`;--> statement-breakpoint
ALTER TABLE `__new_readings` RENAME TO `readings`;--> statement-breakpoint
PRAGMA foreign_keys=ON;--> statement-breakpoint
CREATE UNIQUE INDEX `readings_by_id` ON `readings` (`id`);--> statement-breakpoint
CREATE INDEX `readings_of_log` ON `readings` (`station_id`,`read_at`,`n`,`chain_id`,`channel_id`,`before`,`instrument_id`,`inside`) WHERE deleted_at IS NULL;--> statement-breakpoint
CREATE INDEX `readings_of_chain` ON `readings` (`chain_id`);--> statement-breakpoint
CREATE INDEX `readings_of_round` ON `readings` (`round_id`);--> statement-breakpoint
ALTER TABLE `rounds` ADD `reading_count` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `rounds` ADD `outside_count` integer DEFAULT 0 NOT NULL;;--> statement-breakpoint
INSERT INTO `record` (`id`, `epoch`) VALUES (1, '');--> statement-breakpoint
CREATE VIRTUAL TABLE `readings_text` USING fts5(words, content='', contentless_delete=1, tokenize='trigram');--> statement-breakpoint
INSERT INTO `readings_text` (rowid, words) SELECT n, note || char(10) || weather || char(10) || "by" FROM `readings` WHERE note <> '' OR weather <> '' OR "by" <> '';--> statement-breakpoint
CREATE TRIGGER `readings_text_added` AFTER INSERT ON `readings` WHEN new.note <> '' OR new.weather <> '' OR new."by" <> '' BEGIN
	INSERT INTO `readings_text` (rowid, words) VALUES (new.n, new.note || char(10) || new.weather || char(10) || new."by");
END;--> statement-breakpoint
CREATE TRIGGER `readings_text_removed` AFTER DELETE ON `readings` WHEN old.note <> '' OR old.weather <> '' OR old."by" <> '' BEGIN
	DELETE FROM `readings_text` WHERE rowid = old.n;
END;--> statement-breakpoint
CREATE TRIGGER `readings_text_changed` AFTER UPDATE OF note, weather, "by" ON `readings` BEGIN
	DELETE FROM `readings_text` WHERE rowid = old.n;
	INSERT INTO `readings_text` (rowid, words) VALUES (new.n, new.note || char(10) || new.weather || char(10) || new."by");
END;--> statement-breakpoint
INSERT INTO `round_means` SELECT round_id, max(chain_id), channel_id, before, min(read_at), avg(power_w), coalesce(avg(forward_w / expected_w) * avg(expected_w), avg(forward_w)), avg(CASE WHEN forward_w > 0 AND reflected_w IS NOT NULL THEN sqrt(reflected_w / forward_w) WHEN swr IS NOT NULL THEN (swr - 1) / (swr + 1) END), avg(expected_w), avg(low_w), avg(high_w), avg(expected_swr), avg(low_swr), avg(high_swr) FROM `readings` WHERE deleted_at IS NULL AND channel_id IS NOT NULL GROUP BY round_id, channel_id, before;--> statement-breakpoint
UPDATE `rounds` SET reading_count = (SELECT count(*) FROM `readings` r WHERE r.round_id = rounds.id AND r.deleted_at IS NULL), outside_count = (SELECT count(*) FROM `readings` r WHERE r.round_id = rounds.id AND r.deleted_at IS NULL AND NOT r.inside);
