CREATE SCHEMA "slate";
--> statement-breakpoint
CREATE TABLE "slate"."account" (
	"id" uuid PRIMARY KEY NOT NULL,
	"account_id" text NOT NULL,
	"provider_id" text NOT NULL,
	"person_id" uuid NOT NULL,
	"access_token" text,
	"refresh_token" text,
	"id_token" text,
	"access_token_expires_at" timestamp with time zone,
	"refresh_token_expires_at" timestamp with time zone,
	"scope" text,
	"password" text,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "slate"."ask" (
	"submission_id" uuid NOT NULL,
	"step" integer NOT NULL,
	"person_id" uuid NOT NULL,
	"open" boolean DEFAULT true NOT NULL,
	"since" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "ask_submission_id_step_person_id_pk" PRIMARY KEY("submission_id","step","person_id")
);
--> statement-breakpoint
CREATE TABLE "slate"."designed_column" (
	"table_id" uuid NOT NULL,
	"id" text NOT NULL,
	"key" text NOT NULL,
	"label" text NOT NULL,
	"kind" text NOT NULL,
	"required" boolean NOT NULL,
	"is_unique" boolean NOT NULL,
	"decimals" integer,
	"unit" text DEFAULT '' NOT NULL,
	"choices" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"target_id" uuid,
	"position" integer NOT NULL,
	CONSTRAINT "designed_column_table_id_id_pk" PRIMARY KEY("table_id","id")
);
--> statement-breakpoint
CREATE TABLE "slate"."designed_table" (
	"id" uuid PRIMARY KEY NOT NULL,
	"key" text NOT NULL,
	"label" text NOT NULL,
	"prefix" text NOT NULL,
	"parent_id" uuid,
	"title" text[] DEFAULT '{}'::text[] NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "designed_table_key_unique" UNIQUE("key")
);
--> statement-breakpoint
CREATE TABLE "slate"."form" (
	"id" uuid PRIMARY KEY NOT NULL,
	"key" text NOT NULL,
	"owner_id" uuid NOT NULL,
	"design" jsonb NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"edited_by" uuid NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "form_key_unique" UNIQUE("key")
);
--> statement-breakpoint
CREATE TABLE "slate"."form_release" (
	"id" uuid PRIMARY KEY NOT NULL,
	"form_id" uuid NOT NULL,
	"number" integer NOT NULL,
	"design" jsonb NOT NULL,
	"released_by" uuid NOT NULL,
	"released_at" timestamp with time zone DEFAULT now() NOT NULL,
	"form_version" integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE "slate"."history" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "slate"."history_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"table_id" uuid NOT NULL,
	"record_id" uuid NOT NULL,
	"version" integer NOT NULL,
	"change" text NOT NULL,
	"before" jsonb,
	"after" jsonb,
	"by_id" uuid,
	"submission_id" uuid,
	"at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "slate"."number_counter" (
	"table_id" uuid NOT NULL,
	"year" integer NOT NULL,
	"last" integer NOT NULL,
	CONSTRAINT "number_counter_table_id_year_pk" PRIMARY KEY("table_id","year")
);
--> statement-breakpoint
CREATE TABLE "slate"."outbox" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "slate"."outbox_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"topic" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "slate"."person" (
	"id" uuid PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"email" text NOT NULL,
	"email_verified" boolean DEFAULT false NOT NULL,
	"image" text,
	"place" text DEFAULT '' NOT NULL,
	"roles" text[] DEFAULT '{colleague}'::text[] NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "person_email_unique" UNIQUE("email")
);
--> statement-breakpoint
CREATE TABLE "slate"."release_table" (
	"release_id" uuid NOT NULL,
	"table_id" uuid NOT NULL,
	"use" text NOT NULL,
	CONSTRAINT "release_table_release_id_table_id_use_pk" PRIMARY KEY("release_id","table_id","use"),
	CONSTRAINT "release_table_use" CHECK ("slate"."release_table"."use" IN ('write', 'pick'))
);
--> statement-breakpoint
CREATE TABLE "slate"."request_key" (
	"person_id" uuid NOT NULL,
	"key" uuid NOT NULL,
	"answer" jsonb,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "request_key_person_id_key_pk" PRIMARY KEY("person_id","key")
);
--> statement-breakpoint
CREATE TABLE "slate"."session" (
	"id" uuid PRIMARY KEY NOT NULL,
	"token" text NOT NULL,
	"person_id" uuid NOT NULL,
	"expires_at" timestamp with time zone NOT NULL,
	"ip_address" text,
	"user_agent" text,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "session_token_unique" UNIQUE("token")
);
--> statement-breakpoint
CREATE TABLE "slate"."submission" (
	"id" uuid PRIMARY KEY NOT NULL,
	"form_id" uuid NOT NULL,
	"release_id" uuid NOT NULL,
	"number" text,
	"state" text NOT NULL,
	"step" integer,
	"sender_id" uuid NOT NULL,
	"answers" jsonb NOT NULL,
	"sent_answers" jsonb,
	"earlier_answers" jsonb,
	"version" integer DEFAULT 1 NOT NULL,
	"record_id" uuid,
	"sent_at" timestamp with time zone,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "submission_state_known" CHECK ("slate"."submission"."state" IN ('draft', 'waiting', 'sent-back', 'kept', 'declined', 'withdrawn'))
);
--> statement-breakpoint
CREATE TABLE "slate"."submission_event" (
	"submission_id" uuid NOT NULL,
	"position" integer NOT NULL,
	"kind" text NOT NULL,
	"step" integer,
	"by_id" uuid NOT NULL,
	"word" text DEFAULT '' NOT NULL,
	"answers" jsonb,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "submission_event_submission_id_position_pk" PRIMARY KEY("submission_id","position")
);
--> statement-breakpoint
CREATE TABLE "slate"."table_grant" (
	"table_id" uuid NOT NULL,
	"role" text NOT NULL,
	"action" text NOT NULL,
	CONSTRAINT "table_grant_table_id_role_action_pk" PRIMARY KEY("table_id","role","action"),
	CONSTRAINT "table_grant_action" CHECK ("slate"."table_grant"."action" IN ('see', 'add', 'change', 'remove'))
);
--> statement-breakpoint
CREATE TABLE "slate"."verification" (
	"id" uuid PRIMARY KEY NOT NULL,
	"identifier" text NOT NULL,
	"value" text NOT NULL,
	"expires_at" timestamp with time zone NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "slate"."account" ADD CONSTRAINT "account_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "slate"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."ask" ADD CONSTRAINT "ask_submission_id_submission_id_fk" FOREIGN KEY ("submission_id") REFERENCES "slate"."submission"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."ask" ADD CONSTRAINT "ask_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "slate"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."designed_column" ADD CONSTRAINT "designed_column_table_id_designed_table_id_fk" FOREIGN KEY ("table_id") REFERENCES "slate"."designed_table"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."designed_column" ADD CONSTRAINT "designed_column_target_id_designed_table_id_fk" FOREIGN KEY ("target_id") REFERENCES "slate"."designed_table"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."form" ADD CONSTRAINT "form_owner_id_person_id_fk" FOREIGN KEY ("owner_id") REFERENCES "slate"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."form" ADD CONSTRAINT "form_edited_by_person_id_fk" FOREIGN KEY ("edited_by") REFERENCES "slate"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."form_release" ADD CONSTRAINT "form_release_form_id_form_id_fk" FOREIGN KEY ("form_id") REFERENCES "slate"."form"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."form_release" ADD CONSTRAINT "form_release_released_by_person_id_fk" FOREIGN KEY ("released_by") REFERENCES "slate"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."release_table" ADD CONSTRAINT "release_table_release_id_form_release_id_fk" FOREIGN KEY ("release_id") REFERENCES "slate"."form_release"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."release_table" ADD CONSTRAINT "release_table_table_id_designed_table_id_fk" FOREIGN KEY ("table_id") REFERENCES "slate"."designed_table"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."request_key" ADD CONSTRAINT "request_key_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "slate"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."session" ADD CONSTRAINT "session_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "slate"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."submission" ADD CONSTRAINT "submission_form_id_form_id_fk" FOREIGN KEY ("form_id") REFERENCES "slate"."form"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."submission" ADD CONSTRAINT "submission_release_id_form_release_id_fk" FOREIGN KEY ("release_id") REFERENCES "slate"."form_release"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."submission" ADD CONSTRAINT "submission_sender_id_person_id_fk" FOREIGN KEY ("sender_id") REFERENCES "slate"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."submission_event" ADD CONSTRAINT "submission_event_submission_id_submission_id_fk" FOREIGN KEY ("submission_id") REFERENCES "slate"."submission"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."submission_event" ADD CONSTRAINT "submission_event_by_id_person_id_fk" FOREIGN KEY ("by_id") REFERENCES "slate"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."table_grant" ADD CONSTRAINT "table_grant_table_id_designed_table_id_fk" FOREIGN KEY ("table_id") REFERENCES "slate"."designed_table"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "ask_open" ON "slate"."ask" USING btree ("person_id") WHERE "slate"."ask"."open";--> statement-breakpoint
CREATE UNIQUE INDEX "designed_column_key" ON "slate"."designed_column" USING btree ("table_id","key");--> statement-breakpoint
CREATE UNIQUE INDEX "form_release_number" ON "slate"."form_release" USING btree ("form_id","number");--> statement-breakpoint
CREATE INDEX "history_record" ON "slate"."history" USING btree ("record_id","version");--> statement-breakpoint
CREATE INDEX "submission_sender" ON "slate"."submission" USING btree ("sender_id","updated_at");--> statement-breakpoint
CREATE INDEX "submission_state" ON "slate"."submission" USING btree ("state","updated_at");--> statement-breakpoint
CREATE INDEX "submission_form" ON "slate"."submission" USING btree ("form_id");