-- Up Migration

-- What is forgotten at an age is found by it.
create index mail_settled on mail (created_at) where sent_at is not null or failed_at is not null;
create index mailroom_message_received on mailroom_message (received_at);
create index fact_at on fact (at);
create index no_show_noted on no_show (noted_at);

-- Down Migration

drop index mail_settled, mailroom_message_received, fact_at, no_show_noted;
