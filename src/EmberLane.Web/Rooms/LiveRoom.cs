using EmberLane.Store;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Rooms;

/// <summary>A room whose lane and work figure can be asked for alone, as background work moves on.</summary>
public abstract class LiveRoom(Footage footage, Desk desk) : RoomModel(footage, desk)
{
    public PartialViewResult OnGetLane() => Partial("_Lane", (RoomModel)this);

    public PartialViewResult OnGetRing() => Partial("_WorkRing", (RoomModel)this);
}
