ALTER TABLE "slate"."directory_member" ADD COLUMN "entry" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "slate"."directory_member" ADD COLUMN "ended" boolean DEFAULT false NOT NULL;