using EmberLane.Core.Cameras;
using EmberLane.Core.Mics;

namespace EmberLane.Core.Tests.Cameras;

public sealed class SpeakerMicsTests
{
    private static PlanRange Range(long from, long to) => new(MediaTime.FromMilliseconds(from), MediaTime.FromMilliseconds(to));

    private static Mic Of(int channel, MicKind kind, string person = "") => new(1, channel, "", kind, person, true, "");

    [Fact]
    public void Who_wears_a_mic_is_heard_by_it_and_who_wears_none_by_the_boom()
    {
        var open = SpeakerMics.Open(
            [new OpenMic("Maren", Range(0, 5)), new OpenMic("Somebody", Range(4, 9)), new OpenMic("ivo", Range(8, 12))],
            [Of(0, MicKind.Camera), Of(1, MicKind.Lav, "Maren"), Of(2, MicKind.Lav, "Ivo"), Of(3, MicKind.Boom)]
        );
        Assert.Equal([(1, Range(0, 5)), (3, Range(4, 9)), (2, Range(8, 12))], open);
    }

    [Fact]
    public void People_who_share_a_mic_keep_it_open_once()
    {
        var open = SpeakerMics.Open(
            [new OpenMic("One", Range(0, 5)), new OpenMic("Two", Range(4, 9)), new OpenMic("One", Range(20, 30))],
            [Of(0, MicKind.Unused, "One"), Of(1, MicKind.Boom), Of(2, MicKind.Boom)]
        );
        Assert.Equal([(1, Range(0, 9)), (1, Range(20, 30))], open);
    }

    [Fact]
    public void Who_has_nothing_of_their_own_where_only_others_wear_mics_is_heard_by_those()
    {
        var mics = new[] { Of(0, MicKind.Lav, "Maren"), Of(1, MicKind.Lav, "Ivo") };
        Assert.Equal([(0, Range(1, 2)), (1, Range(1, 2))], SpeakerMics.Open([new OpenMic("Somebody", Range(1, 2))], mics));
        Assert.Empty(SpeakerMics.Open([new OpenMic("Somebody", Range(1, 2))], []));
    }
}
