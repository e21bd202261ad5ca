CREATE TABLE "slate"."file_gone" (
	"id" uuid PRIMARY KEY NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "slate"."file" ADD COLUMN "outside" boolean DEFAULT false NOT NULL;--> statement-breakpoint
-- Whoever takes a file away, and by whatever way, its bytes outside are noted to be taken away too, in the same transaction.
CREATE FUNCTION slate.note_file_gone() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  INSERT INTO file_gone (id) VALUES (OLD.id) ON CONFLICT DO NOTHING;
  RETURN OLD;
END $$;
--> statement-breakpoint
CREATE TRIGGER gone AFTER DELETE ON slate.file FOR EACH ROW WHEN (OLD.outside) EXECUTE FUNCTION slate.note_file_gone();
