namespace Walkdown.StandIns.Cameras;

/// <summary>A server of addresses on the simulated network, as it truly is.</summary>
/// <param name="Label">What it is.</param>
/// <param name="Address">Of the site.</param>
/// <param name="Offers">The address that it offers to whoever asks.</param>
/// <param name="Mask">That goes with it.</param>
/// <param name="Gateway">Likewise.</param>
/// <param name="Hours">For how long.</param>
/// <param name="Cabinet">The switch that it is plugged at; empty: at none that is asked.</param>
/// <param name="Port">Its port there.</param>
/// <param name="Mac">Its hardware address.</param>
/// <param name="Off">It has no power.</param>
/// <param name="Note">What is wrong with it; null: nothing is.</param>
public sealed record LeaseServerTruth(
    string Label,
    string Address,
    string Offers,
    string Mask = "255.255.255.0",
    string Gateway = "",
    int Hours = 12,
    string Cabinet = "",
    int Port = 0,
    string Mac = "",
    bool Off = false,
    string? Note = null
);
