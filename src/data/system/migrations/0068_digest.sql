ALTER TABLE "slate"."submission" ADD COLUMN "digest" jsonb;--> statement-breakpoint
CREATE INDEX "submission_undigested" ON "slate"."submission" USING btree ("sent_at") WHERE "slate"."submission"."state" = 'waiting' AND "slate"."submission"."digest" IS NULL;--> statement-breakpoint
-- Other answers, or sent anew: what lists said of it is not so any more.
CREATE FUNCTION slate.forget_digest() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN NEW.digest := NULL; RETURN NEW; END $$;
--> statement-breakpoint
CREATE TRIGGER forget_digest BEFORE UPDATE OF answers, sent_at ON slate.submission FOR EACH ROW
  WHEN (OLD.digest IS NOT NULL AND (OLD.answers IS DISTINCT FROM NEW.answers OR OLD.sent_at IS DISTINCT FROM NEW.sent_at)) EXECUTE FUNCTION slate.forget_digest();
