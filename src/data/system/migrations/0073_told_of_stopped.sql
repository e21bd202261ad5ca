ALTER TABLE "slate"."account_mail" DROP CONSTRAINT "account_mail_kind";--> statement-breakpoint
ALTER TABLE "slate"."account_mail" ADD CONSTRAINT "account_mail_kind" CHECK ("slate"."account_mail"."kind" IN ('invited', 'forgotten', 'changed', 'signing-in', 'stuck', 'stopped'));
--> statement-breakpoint
-- Administrators are told of an address that has stopped by itself; one that one of them has stopped, they know of.
CREATE FUNCTION slate.tell_stopped() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  INSERT INTO account_mail (person_id, kind) SELECT id, 'stopped' FROM person WHERE ended_at IS NULL AND 'administrator' = ANY (roles);
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER told_of_stopped AFTER UPDATE OF stopped_at ON slate.event_address FOR EACH ROW WHEN (OLD.stopped_at IS NULL AND NEW.stopped_at IS NOT NULL AND NEW.stopped_because IS NOT NULL) EXECUTE FUNCTION slate.tell_stopped();
