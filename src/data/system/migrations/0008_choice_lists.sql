CREATE TABLE "slate"."choice_list" (
	"id" uuid PRIMARY KEY NOT NULL,
	"label" text NOT NULL,
	"description" text DEFAULT '' NOT NULL,
	"choices" jsonb NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "choice_list_label_unique" UNIQUE("label")
);
--> statement-breakpoint
CREATE TABLE "slate"."choice_list_version" (
	"list_id" uuid NOT NULL,
	"version" integer NOT NULL,
	"label" text NOT NULL,
	"description" text NOT NULL,
	"choices" jsonb NOT NULL,
	"person_id" uuid NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "choice_list_version_list_id_version_pk" PRIMARY KEY("list_id","version")
);
--> statement-breakpoint
ALTER TABLE "slate"."designed_column" ADD COLUMN "list_id" uuid;--> statement-breakpoint
ALTER TABLE "slate"."choice_list_version" ADD CONSTRAINT "choice_list_version_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "slate"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."designed_column" ADD CONSTRAINT "designed_column_list_id_choice_list_id_fk" FOREIGN KEY ("list_id") REFERENCES "slate"."choice_list"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE FUNCTION slate.tell_lists() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  PERFORM slate.tell('lists');
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER list_told AFTER INSERT OR UPDATE OR DELETE ON slate.choice_list FOR EACH STATEMENT EXECUTE FUNCTION slate.tell_lists();
