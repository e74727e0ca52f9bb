using System.Globalization;
using EmberLane.Application.Gathering;
using EmberLane.Application.Work;
using EmberLane.Core.Comments;
using EmberLane.Core.Shown;
using EmberLane.Core.Transcripts;
using EmberLane.Store;
using EmberLane.Web.Rooms;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Shown;

/// <summary>A sitting as a link shows it.</summary>
public sealed class SittingModel(
    ShownServices services,
    Store.Transcripts transcripts,
    Jobs jobs,
    SittingMics sittingMics,
    MediaCache cache,
    ShownMedia shown,
    OffTheRecord held
) : ShownModel(services)
{
    private readonly ShownServices services = services;

    private Sitting sitting = null!;

    /// <summary>What is seen and heard beside it.</summary>
    public PlayedSitting Played { get; private set; } = new([], null);

    /// <summary>What the player passes over, as what is set aside: seconds from and to, a comma between.</summary>
    public string AsideSeconds { get; private set; } = "";

    /// <inheritdoc/>
    protected override bool Find()
    {
        if (SittingHere(Asked.Sitting ?? 0) is not { } found)
        {
            return false;
        }
        sitting = found;
        Title = found.Title;
        RoomAddress = IsInside ? FormattableString.Invariant($"/productions/{Production.Id}/read/{found.Id}") : null;
        Version =
            found.TranscriptId is { } id && transcripts.Head(id) is { } head
                ? string.Create(CultureInfo.InvariantCulture, $"{id}.{head.Version}")
                : "";
        return true;
    }

    /// <inheritdoc/>
    protected override void Read()
    {
        if (services.Reading.OfSitting(sitting) is { } text)
        {
            Text = text;
        }
        else
        {
            WhyNot = $"{sitting.Title} is not transcribed yet. Its text will be here.";
        }
        AsideSeconds = services.Reading.TextOf(sitting.Id) is var (_, whole)
            ? string.Join(
                ' ',
                Core.Marks.AsideStretches.Of(whole).Select(a => $"{a.In.FromZero.ToSecondsText()},{a.Out.FromZero.ToSecondsText()}")
            )
            : "";
        if (MayListen)
        {
            LoadPlayed();
        }
    }

    /// <summary>The playing copies, as they are made.</summary>
    public IActionResult OnGetAngles()
    {
        if (!Find() || !MayListen)
        {
            return NotFound();
        }
        LoadPlayed();
        return Partial("_Angles", Played);
    }

    private void LoadPlayed()
    {
        var mics = sittingMics.Of(sitting);
        var all = PlayedSitting.Of(sitting, services.Footage.SourcesOf(sitting.Id), mics, cache, jobs.Newest(WorkKinds.Sync, sitting.Id));
        Facts = mics.Placed.Count > 0 ? Engines.Speech.SittingSound.Extent(mics.Placed).Length.ToString() : "";
        Played = IsInside || held.Withheld(sitting).Count == 0 ? all : Without(all);
    }

    // Nothing is played by a link that is not made without what is off the record.
    private PlayedSitting Without(PlayedSitting all)
    {
        var made = shown.Missing(sitting);
        var sources = services.Footage.SourcesOf(sitting.Id).ToDictionary(s => FormattableString.Invariant($"/media/{s.Id}/play"));
        var version = FormattableString.Invariant($"?without={Version}");
        return all with
        {
            Angles =
            [
                .. all.Angles.Select(a =>
                    a with
                    {
                        Clips =
                        [
                            .. a.Clips.Select(c =>
                                c.Address is { } address
                                && sources.TryGetValue(address, out var source)
                                && made.All(m => m.Source?.Id != source.Id)
                                    ? c with
                                    {
                                        Address = address + version,
                                    }
                                    : c with
                                    {
                                        Address = null,
                                    }
                            ),
                        ],
                    }
                ),
            ],
            Sound =
                all.Sound is { Address: { } sound } && sound.StartsWith("/media/sitting/", StringComparison.Ordinal)
                    ? all.Sound with
                    {
                        Address = made.Any(m => m.Source is null) ? null : sound.Split('?')[0] + version,
                    }
                : all.Sound is null ? null
                : all.Sound with { Address = null },
        };
    }

    /// <inheritdoc/>
    protected override IReadOnlyList<CommentThread> Talked() => services.Comments.OfSitting(Production.Id, sitting.Id);

    /// <inheritdoc/>
    protected override (CommentPlace Place, string Quote)? Passage(string? line, long sitting, WordNumber first, WordNumber last) =>
        Text.Of(sitting, first, last) is { } passage
        && services.Reading.TextOf(sitting) is var (id, text)
        && text.PlaceOf(first) is { } from
        && text.PlaceOf(last) is { } to
            ? (new WordsPlace(sitting, id, first, last, text.RangeOf(from, to)), passage.Said)
            : null;
}
