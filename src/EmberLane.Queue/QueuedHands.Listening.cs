using EmberLane.Application.Hands;
using NATS.Client.Core;
using NATS.Client.JetStream.Models;

namespace EmberLane.Queue;

// What the server hears from the queue and its workers.
public sealed partial class QueuedHands
{
    private async Task ListenAnswersAsync(CancellationToken stop)
    {
        var consumer = await line.Stream.CreateOrUpdateConsumerAsync(
            QueueNames.Answers,
            new ConsumerConfig(server)
            {
                FilterSubject = QueueNames.AnswersOf(server),
                AckPolicy = ConsumerConfigAckPolicy.Explicit,
                InactiveThreshold = TimeSpan.FromDays(30),
            },
            stop
        );
        await foreach (var message in consumer.ConsumeAsync<byte[]>(cancellationToken: stop))
        {
            if (QueueMessages.Read<AnswerMessage>(message.Data) is { Ended: not Ended.Deadly } answer)
            {
                if (awaited.TryGetValue(answer.Id, out var own))
                {
                    own.Answered(answer);
                }
                else if (answer.Ended == Ended.Done && !ended.ContainsKey(answer.Id) && early.Count < MostEarly)
                {
                    // Asked for before this server's last start; it is asked for again soon.
                    early[answer.Id] = answer;
                }
                else
                {
                    await line.ForgetAsync(answer.Made);
                }
            }
            await message.AckAsync(cancellationToken: stop);
        }
    }

    private async Task ListenAsync<T>(string subject, Action<T> take, CancellationToken stop)
        where T : class
    {
        await foreach (var message in line.Connection.SubscribeAsync<byte[]>(subject, cancellationToken: stop))
        {
            if (QueueMessages.Read<T>(message.Data) is { } said)
            {
                take(said);
            }
        }
    }

    private void HeardOf(HereMessage said)
    {
        roster.Heard(said);
        news.Tell();
    }

    private void Progressed(ProgressMessage said)
    {
        if (awaited.TryGetValue(said.Id, out var own))
        {
            if (said.Begun)
            {
                own.Begun(said.Worker);
            }
            own.At(said.At);
        }
        else if (ended.ContainsKey(said.Id))
        {
            _ = CancelAsync(said.Id).AsTask();
        }
    }

    // So many workers began it and are not there any more that it is given to no further one. Not at the first look: after the queue was
    // away, all of them seem to be gone until they have said that they are there.
    private void EndIfDeadly(OutErrand own)
    {
        own.Deadly = own.Failed.Count + own.Gone(roster.IsThere).Count >= Tries ? own.Deadly + 1 : 0;
        if (own.Deadly * wish.Times.Beat > wish.Times.Gone)
        {
            own.Answered(new AnswerMessage(own.Id, "", Ended.Deadly, "", null));
        }
    }

    private async Task AnswerWhoAsync(CancellationToken stop)
    {
        await foreach (var message in line.Connection.SubscribeAsync<byte[]>(QueueNames.Who(server), cancellationToken: stop))
        {
            await message.ReplyAsync(Array.Empty<byte>(), cancellationToken: stop);
        }
    }

    // Says that the server is there; looks for what has been out for long without a word, and ends what nobody wants any more.
    private async Task WatchAsync(CancellationToken stop)
    {
        var hello = QueueMessages.Write(new ServerMessage(QueueMessages.Protocol, QueueMessages.Version, server));
        while (true)
        {
            await line.Connection.PublishAsync(QueueNames.Servers, hello, cancellationToken: stop);
            roster.Forget();
            foreach (var id in ended.Keys.Where(id => roster.InHand.Contains(Doing(id))))
            {
                await CancelAsync(id);
            }
            foreach (var own in awaited.Values)
            {
                EndIfDeadly(own);
            }
            foreach (var own in awaited.Values.Where(o => o.Silent > wish.Times.Unheard))
            {
                if (!await IsInQueueAsync(own, stop))
                {
                    own.Answered(new AnswerMessage(own.Id, "", Ended.Lost, "", null));
                }
                own.Touch();
            }
            kept.IsWell();
            await Task.Delay(wish.Times.Beat, stop);
        }
    }

    private async Task<bool> IsInQueueAsync(OutErrand own, CancellationToken stop)
    {
        var subject = QueueNames.Work1(own.Errand.Kind, server, own.Id);
        var stream = await line.Stream.GetStreamAsync(QueueNames.Work, new StreamInfoRequest { SubjectsFilter = subject }, stop);
        return stream.Info.State.Subjects?.ContainsKey(subject) == true;
    }
}
